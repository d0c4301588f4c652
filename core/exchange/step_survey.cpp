#include <algorithm>
#include <cctype>
#include <cstring>
#include <iterator>
#include <string_view>
#include <vector>

#include "exchange/step_format.h"
#include "exchange/step_scanner.h"

namespace anvil {
namespace {

constexpr size_t kToldMissing = 5;

// One pass over the text outside quoted strings and comments, noting which entity numbers are defined and
// used.
struct Scan {
  std::vector<long> defined, used;  // sorted, each once
  bool not_a_number = false;
};

bool is_blank(char c) {
  return c == ' ' || (c >= '\t' && c <= '\r');
}

size_t skip_string(std::string_view text, size_t i) {
  const size_t end = text.find('\'', i + 1);
  return end == std::string_view::npos ? text.size() : end;
}

size_t skip_comment(std::string_view text, size_t i) {
  const size_t end = text.find("*/", i + 2);
  return end == std::string_view::npos ? text.size() : end + 1;
}

size_t read_number(std::string_view text, size_t i, Scan& scan) {
  long id = 0;
  size_t j = i + 1;
  for (; j < text.size() && is_step_digit(text[j]) && id < 1'000'000'000'000L; ++j)
    id = id * 10 + (text[j] - '0');
  if (j == i + 1) return i;
  size_t k = j;
  while (k < text.size() && is_blank(text[k])) ++k;
  (k < text.size() && text[k] == '=' ? scan.defined : scan.used).push_back(id);
  return j - 1;
}

bool is_not_a_number(std::string_view text, size_t i) {
  const auto upper = [&](size_t k) {
    return k < text.size() ? std::toupper(static_cast<unsigned char>(text[k])) : 0;
  };
  size_t k = i + 1;
  while (upper(k) == ' ' || upper(k) == '-' || upper(k) == '+') ++k;
  const bool nan = upper(k) == 'N' && upper(k + 1) == 'A' && upper(k + 2) == 'N';
  const bool inf = upper(k) == 'I' && upper(k + 1) == 'N' && upper(k + 2) == 'F';
  const int next = upper(k + 3);
  return (nan || inf) && (next == ',' || next == ')' || next == '(' || next == ' ');
}

void each_once(std::vector<long>& ids) {
  if (!std::is_sorted(ids.begin(), ids.end())) std::sort(ids.begin(), ids.end());
  ids.erase(std::unique(ids.begin(), ids.end()), ids.end());
}

Scan scan_data(std::string_view text) {
  Scan scan;
  for (size_t i = 0; i < text.size(); ++i) {
    const char c = text[i];
    if (c == '\'') {
      i = skip_string(text, i);
    } else if (c == '/' && i + 1 < text.size() && text[i + 1] == '*') {
      i = skip_comment(text, i);
    } else if (c == '#') {
      i = read_number(text, i, scan);
    } else if ((c == ',' || c == '(') && is_not_a_number(text, i)) {
      scan.not_a_number = true;
    }
  }
  each_once(scan.defined);
  each_once(scan.used);
  return scan;
}

std::string schema_of(std::string_view header) {
  const size_t at = header.find("FILE_SCHEMA");
  if (at == std::string_view::npos) return "unknown";
  const size_t open = header.find('\'', at), close = header.find('\'', open + 1);
  if (open == std::string_view::npos || close == std::string_view::npos) return "unknown";
  std::string name(header.substr(open + 1, close - open - 1));
  std::transform(name.begin(), name.end(), name.begin(), [](unsigned char c) { return std::toupper(c); });
  if (name.find("AUTOMOTIVE_DESIGN") != std::string::npos) return "AP214";
  if (name.find("CONFIG_CONTROL") != std::string::npos || name.find("AP203") != std::string::npos)
    return "AP203";
  if (name.find("AP242") != std::string::npos) return "AP242";
  return name.substr(0, name.find(' '));
}

}  // namespace

Result<StepSurvey> survey_step(const std::string& bytes, const std::string& file_name) {
  const auto no = [&](const std::string& why) { return refuse(RefusalCode::kUnreadable, file_name + why); };
  if (bytes.empty()) return no(" is empty: ask for the file again.");
  StepSurvey survey;
  if (bytes.compare(0, 3, "\xEF\xBB\xBF") == 0) survey.skip_bytes = 3;
  std::string_view text(bytes);
  text.remove_prefix(survey.skip_bytes);
  const size_t start = text.find_first_not_of(" \t\r\n");
  if (start == std::string_view::npos || text.compare(start, 13, "ISO-10303-21;") != 0)
    return no(" is not a STEP file: it does not begin with ISO-10303-21.");
  const size_t data = text.find("DATA;");
  if (data == std::string_view::npos)
    return no(" has no data section: the file was cut off or never finished.");
  if (text.substr(data).find("END-ISO-10303-21") == std::string_view::npos)
    return no(" is cut off: its closing line END-ISO-10303-21 is missing; ask for the file again.");

  survey.schema = schema_of(text.substr(0, data));
  const std::string_view body = text.substr(data);
  survey.has_length_unit = body.find("LENGTH_UNIT") != std::string_view::npos;
  const Scan scan = scan_data(body);
  survey.entities = scan.defined.size();
  survey.has_numbers_that_are_none = scan.not_a_number;
  std::set_difference(scan.used.begin(), scan.used.end(), scan.defined.begin(), scan.defined.end(),
                      std::back_inserter(survey.missing));
  survey.missing_count = survey.missing.size();
  survey.missing.resize(std::min(survey.missing.size(), kToldMissing));
  if (survey.entities == 0) return no(" holds no data: there is nothing between DATA and ENDSEC.");
  if (survey.has_numbers_that_are_none)
    return no(
        " holds coordinates that are not numbers (NAN or INF): export it again from the program it came "
        "from.");
  return survey;
}

}  // namespace anvil
