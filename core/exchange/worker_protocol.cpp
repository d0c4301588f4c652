#include "exchange/worker_protocol.h"

#include <nlohmann/json.hpp>

namespace anvil {

using nlohmann::json;

std::string encode(const WorkerMessage& m) {
  json j;
  if (m.refusal) {
    j = {{"refusal", m.refusal->sentence}, {"code", static_cast<int>(m.refusal->code)}};
  } else if (m.done) {
    j = {{"done", true}, {"changed", m.changed}};
  } else if (m.no_memory) {
    j = {{"no_memory", true}};
  } else if (m.picture) {
    j = {{"picture", true}};
  } else {
    j = {{"phase", m.phase}, {"share", m.share}};
  }
  return j.dump(-1, ' ', false, json::error_handler_t::replace);
}

std::string encode_order(const std::vector<std::string>& arguments) {
  std::string order;
  for (const std::string& argument : arguments) order.append(argument).push_back('\0');
  return order;
}

std::vector<std::string> decode_order(const std::string& order) {
  std::vector<std::string> arguments;
  for (size_t at = 0, end; (end = order.find('\0', at)) != std::string::npos; at = end + 1)
    arguments.push_back(order.substr(at, end - at));
  return arguments;
}

std::optional<WorkerMessage> decode(const std::string& line) {
  const json j = json::parse(line, nullptr, false);
  if (!j.is_object()) return std::nullopt;
  WorkerMessage m;
  if (j.contains("refusal") && j["refusal"].is_string()) {
    m.refusal = Refusal{static_cast<RefusalCode>(j.value("code", 0)), j["refusal"].get<std::string>()};
  } else if (j.contains("done")) {
    m.done = true;
    m.changed = j.value("changed", false);
  } else if (j.contains("no_memory")) {
    m.no_memory = true;
  } else if (j.contains("picture")) {
    m.picture = true;
  } else if (j.contains("phase") && j["phase"].is_string()) {
    m.phase = j["phase"].get<std::string>();
    m.share = j.value("share", -1.0);
  } else {
    return std::nullopt;
  }
  return m;
}

}  // namespace anvil
