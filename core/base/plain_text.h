// The one gate for texts that a stranger wrote: names, headings, file names, sentences of libraries. Whatever
// comes in passes it once (JSON in json_from(), tables in read_table(), parts in Part, sentences in
// refuse()), so that nobody behind it has to think of it.
//
//   plain_text("T\nM3 S24000")        -> "T M3 S24000"
//   plain_text("plate\u202Egpj.step") -> "plategpj.step"
//
// What a form of its own needs besides (brackets, tags, quotes, formulas) is escaped by whoever writes it.
#pragma once

#include <string>
#include <string_view>

namespace anvil {

// In one line: control characters and line ends of every kind become blanks; marks that turn the direction of
// writing, and letters nobody sees, are left out; what is no UTF-8 becomes U+FFFD.
std::string plain_text(std::string_view told);

// Whether plain_text() would leave it as it is.
bool is_plain_text(std::string_view told);

// The next letter of a UTF-8 text from byte `at` on, which is moved behind it; U+FFFD for bytes that are
// none.
char32_t next_letter(std::string_view text, size_t& at);

// Adds a letter as UTF-8.
void append_letter(std::string& text, char32_t letter);

// In printable ASCII, for forms that know nothing else: letters lose their accents, signs of the trade are
// spelled ("Ø" DIA, "°" DEG, "…" TO, "±" +/-, "×" X, "µ" U), and what has no spelling becomes an underscore.
std::string ascii_text(std::string_view told);

}  // namespace anvil
