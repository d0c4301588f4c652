// Runs a program and keeps what it says.
#pragma once

#include <string>
#include <vector>

namespace anvil::test {

struct Outcome {
  int status = -1;  // exit status; 128 + n when ended by signal n
  std::string out, err;
};

Outcome run(const std::vector<std::string>& command);

// How many child processes this one has.
int children();

// A program of this build: program("true-anvil-cli").
std::string program(const std::string& name);

}  // namespace anvil::test
