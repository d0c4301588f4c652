// The machines that come with the program (core/setup/machines), and those a user keeps in a folder.
#pragma once

#include <filesystem>

#include "setup/machine.h"

namespace anvil {

const std::vector<Machine>& shipped_machines();

// Every *.json of the folder, by name; those that are no machine are left out and told, a sentence each.
std::vector<Machine> machines_in(const std::filesystem::path& folder, std::vector<std::string>& complaints);

// A file of one; the id is the file's name without its ending.
Result<Machine> read_machine(const std::filesystem::path& file);

}  // namespace anvil
