#include "base/json_limits.h"

#include <fmt/format.h>

#include <cmath>
#include <nlohmann/json.hpp>

#include "base/plain_text.h"
#include "base/quoted.h"

namespace anvil {
namespace {

using nlohmann::json;

bool is_nested_deeper(const std::string& text, int limit) {
  int depth = 0;
  bool in_string = false;
  for (size_t i = 0; i < text.size(); ++i) {
    const char c = text[i];
    if (in_string) {
      if (c == '\\') ++i;
      if (c == '"') in_string = false;
      continue;
    }
    if (c == '"') in_string = true;
    if (c == '[' || c == '{') ++depth;
    if (c == ']' || c == '}') --depth;
    if (depth > limit) return true;
  }
  return false;
}

void make_plain(json& value) {
  if (value.is_string()) {
    auto& text = value.get_ref<std::string&>();
    if (!is_plain_text(text)) text = plain_text(text);
    return;
  }
  if (value.is_object()) {
    std::vector<std::string> names;
    for (const auto& [name, inside] : value.items())
      if (!is_plain_text(name)) names.push_back(name);
    for (const std::string& name : names) {
      json inside = std::move(value[name]);
      value.erase(name);
      value[plain_text(name)] = std::move(inside);
    }
  }
  if (value.is_structured())
    for (json& inside : value) make_plain(inside);
}

std::string too_long(const std::string& path, size_t bytes, const JsonLimits& limits) {
  return fmt::format("{}: a text of {} bytes, more than the {} any field may have", cut_short(path, 200),
                     bytes, limits.string_bytes);
}

}  // namespace

Result<json> json_from(const std::string& text, const JsonLimits& limits) {
  if (text.size() > limits.text_bytes)
    return refuse(RefusalCode::kLimit, fmt::format("it is {} MB long, more than the {} MB that are read",
                                                   text.size() >> 20, limits.text_bytes >> 20));
  if (is_nested_deeper(text, limits.depth))
    return refuse(RefusalCode::kLimit, fmt::format("it is nested more than {} levels deep", limits.depth));
  try {
    json value = json::parse(text);
    if (limits.plain) make_plain(value);
    return value;
  } catch (const json::exception& error) {
    return refuse(RefusalCode::kUnreadable,
                  fmt::format("it is not readable as JSON ({})", cut_short(error.what(), 200)));
  }
}

std::string beyond_limits(const json& value, const std::string& path, const JsonLimits& limits) {
  if (value.is_string()) {
    const size_t bytes = value.get_ref<const std::string&>().size();
    return bytes > limits.string_bytes ? too_long(path, bytes, limits) : std::string();
  }
  if (value.is_number()) {
    const double number = value.get<double>();
    return std::abs(number) <= limits.number ? std::string()
                                             : fmt::format("{}: {} is beyond any measure (at most {})",
                                                           cut_short(path, 200), number, limits.number);
  }
  if (!value.is_structured()) return {};
  for (const auto& [name, inside] : value.items()) {
    if (name.size() > limits.string_bytes) return too_long(path, name.size(), limits);
    std::string found = beyond_limits(inside, path.empty() ? name : fmt::format("{}/{}", path, name), limits);
    if (!found.empty()) return found;
  }
  return {};
}

}  // namespace anvil
