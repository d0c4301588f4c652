// The block a part is cut from, as it lies in a setup: a box or a round bar along the axes of its work
// coordinate system.
#pragma once

#include <gp_Ax2.hxx>
#include <map>
#include <string>
#include <vector>

#include "base/expression.h"
#include "part/measure.h"

namespace anvil {

struct Stock {
  enum class Kind { kNone, kAllowance, kSizes, kBody, kOfSetup } kind = Kind::kNone;
  bool round = false;
  char along = 'Z';  // round: the axis of the bar
  // As typed. Allowance: "x-", "x+" … "z+" over the part's box (round: "side", "-", "+"). Sizes: "x", "y",
  // "z" (round: "diameter", "length"), with the part in the middle and "top" over it.
  std::map<std::string, std::string> texts = {};
  int body = -1;  // kBody: which of the delivered ones
  int setup = 0;  // kOfSetup: the entry whose stock it is
  bool operator==(const Stock&) const = default;
};

struct StockBlock {
  gp_Ax2 frame;  // the axes it lies along, in placed coordinates
  Box box;       // read in `frame`; of a round bar, the box around it
  bool round = false;
  char along = 'Z';
};

// Which texts a stock wants, with their labels and first values.
struct StockField {
  std::string id, label, initial;
};
std::vector<StockField> stock_fields(const Stock& stock);

// `part` is the part's exact box, or the stock body's, read in the frame; bare lengths are in `typed_in`.
// Refuses a text that is no length, and a block that the part does not fit in, with the side and by how much.
Result<StockBlock> stock_block(const Stock& stock, const gp_Ax2& frame, const Box& part, Unit typed_in,
                               const Display& display, const Names& names);

double stock_diameter(const StockBlock& block);
// "180.000 × 90.000 × 24.000", "Ø 60.000 × 40.000"
std::string stock_text(const StockBlock& block, const Display& display);

}  // namespace anvil
