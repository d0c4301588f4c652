#include "setup/shipped_machines.h"

#include <algorithm>

#include "base/file.h"
#include "setup/shipped_machine_texts.h"

namespace anvil {

const std::vector<Machine>& shipped_machines() {
  static const std::vector<Machine> all = [] {
    std::vector<Machine> machines;
    for (const auto& [id, text] : kShippedMachineTexts)
      if (auto machine = machine_from_json(text, id)) machines.push_back(std::move(*machine));
    return machines;
  }();
  return all;
}

Result<Machine> read_machine(const std::filesystem::path& file) {
  const auto text = read_file(file);
  if (!text) return refuse(text);
  return machine_from_json(*text, file.stem().string());
}

std::vector<Machine> machines_in(const std::filesystem::path& folder, std::vector<std::string>& complaints) {
  std::vector<std::filesystem::path> files;
  std::error_code gone;
  for (const auto& entry : std::filesystem::directory_iterator(folder, gone))
    if (entry.path().extension() == ".json") files.push_back(entry.path());
  std::sort(files.begin(), files.end());
  std::vector<Machine> machines;
  for (const auto& file : files) {
    auto machine = read_machine(file);
    if (machine)
      machines.push_back(std::move(*machine));
    else
      complaints.push_back(machine.error().sentence);
  }
  return machines;
}

}  // namespace anvil
