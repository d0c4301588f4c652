#include "exchange/body_names.h"

#include <fmt/format.h>

#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS_Compound.hxx>
#include <algorithm>
#include <array>
#include <cctype>
#include <string_view>

namespace anvil {

bool says_nothing(const std::string& name) {
  static constexpr std::array<std::string_view, 14> kWords{
      "",     "solid", "compound", "compsolid", "shell",  "face",    "body",
      "none", "brep",  "shape",    "no name",   "noname", "unnamed", "untitled"};
  std::string word;
  for (const unsigned char c : name) word += static_cast<char>(std::tolower(c));
  while (!word.empty() && (std::isdigit(static_cast<unsigned char>(word.back())) ||
                           std::string_view(" _-.#:").find(word.back()) != std::string_view::npos))
    word.pop_back();
  return std::find(kWords.begin(), kWords.end(), word) != kWords.end();
}

void name_nameless(std::vector<Body>& bodies, const std::string& name) {
  const auto nameless = [](const Body& body) { return says_nothing(body.name); };
  const auto count = std::count_if(bodies.begin(), bodies.end(), nameless);
  int number = 0;
  for (Body& body : bodies)
    if (nameless(body)) body.name = count == 1 ? name : fmt::format("{} {}", name, ++number);
}

void join_single_faces(std::vector<Body>& bodies, const std::string& name) {
  const auto is_single = [](const Body& body) {
    return body.kind == BodyKind::kShell && says_nothing(body.name) &&
           !TopExp_Explorer(body.shape, TopAbs_SHELL).More();
  };
  if (std::count_if(bodies.begin(), bodies.end(), is_single) < 2) return;
  std::vector<TopoDS_Shape> all;
  Body joined;
  joined.name = name;
  joined.kind = BodyKind::kShell;
  for (const Body& body : bodies) {
    if (!is_single(body)) continue;
    for (TopExp_Explorer faces(body.shape, TopAbs_FACE); faces.More(); faces.Next()) {
      const auto count = static_cast<int>(all.size());
      all.push_back(faces.Current());
      const auto own = body.face_colours.find(0);
      if (own != body.face_colours.end())
        joined.face_colours[count] = own->second;
      else if (body.colour)
        joined.face_colours[count] = *body.colour;
    }
  }
  joined.shape = compound_of(all);
  bodies.erase(std::remove_if(bodies.begin(), bodies.end(), is_single), bodies.end());
  bodies.push_back(std::move(joined));
}

}  // namespace anvil
