#include "report/markup.h"

#include "base/plain_text.h"

namespace anvil {
namespace {

std::string escaped(std::string_view told) {
  std::string result;
  for (const char c : plain_text(told)) {
    if (c == '<')
      result += "&lt;";
    else if (c == '>')
      result += "&gt;";
    else if (c == '&')
      result += "&amp;";
    else if (c == '"')
      result += "&quot;";
    else if (c == '\'')
      result += "&#39;";
    else
      result += c;
  }
  return result;
}

}  // namespace

void Markup::begin(const char* name, Attributes attributes) {
  written_ += std::string("<") + name;
  for (const auto& [key, value] : attributes)
    written_ += std::string(" ") + key + "=\"" + escaped(value) + "\"";
}

Markup& Markup::open(const char* name, Attributes attributes) {
  begin(name, attributes);
  written_ += ">";
  open_.push_back(name);
  return *this;
}

Markup& Markup::close() {
  written_ += std::string("</") + open_.back() + ">";
  open_.pop_back();
  return *this;
}

Markup& Markup::text(std::string_view told) {
  written_ += escaped(told);
  return *this;
}

Markup& Markup::element(const char* name, Attributes attributes, std::string_view told) {
  return open(name, attributes).text(told).close();
}

Markup& Markup::empty(const char* name, Attributes attributes) {
  begin(name, attributes);
  written_ += "/>";
  return *this;
}

Markup& Markup::line_end() {
  written_ += "\n";
  return *this;
}

std::string Markup::finished() {
  while (!open_.empty()) close();
  return std::move(written_);
}

}  // namespace anvil
