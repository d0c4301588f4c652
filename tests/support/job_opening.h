// Opening a job's text in tests, with its shapes given.
#pragma once

#include "store/job_json.h"

namespace anvil::test {

// Every source in it is `file`, at the scale told. What is left out counts as refused.
inline Result<Job> opened(const std::string& text, const SourceFile& file) {
  std::string left_out;
  auto job = job_from_json(text, {[&](const std::string&, double scale) -> Result<SourceFile> {
                                    return SourceFile{file.part, file.bytes, scale};
                                  },
                                  [&](const std::string& sentence) { left_out += sentence; }});
  return left_out.empty() ? job : refuse(RefusalCode::kUnreadable, left_out);
}

}  // namespace anvil::test
