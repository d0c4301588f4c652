// Builds HTML and SVG. Whoever writes a page gives it texts and values of attributes as they are: they are
// escaped here, so that nothing that is told can become an element.
//
//   Markup page;
//   page.open("td", {{"style", "color:#24282C"}}).text(hole.name).close();
//   page.element("th", {}, "Hole");
#pragma once

#include <initializer_list>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace anvil {

class Markup {
 public:
  using Attributes = std::initializer_list<std::pair<const char*, std::string_view>>;

  Markup& open(const char* name, Attributes attributes = {});
  Markup& close();  // the last one that is open
  Markup& text(std::string_view told);
  Markup& element(const char* name, Attributes attributes, std::string_view told);
  // One that holds nothing: <br/>
  Markup& empty(const char* name, Attributes attributes = {});
  Markup& line_end();

  // Closes what is open.
  [[nodiscard]] std::string finished();

 private:
  void begin(const char* name, Attributes attributes);

  std::string written_;
  std::vector<const char*> open_;
};

}  // namespace anvil
