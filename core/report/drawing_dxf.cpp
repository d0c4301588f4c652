// The little of DXF that a flat drawing needs, as "DXF Reference, release 2000" describes it: pairs of lines,
// a group code and its value, in sections.
#include <fmt/format.h>

#include "base/plain_text.h"
#include "report/drawing.h"

namespace anvil {
namespace {

// In Windows-1252, as the header says, in one line: letters it has no byte for by their number, the diameter
// sign by its own code, and what would begin such a code as itself.
std::string in_dxf(const std::string& told) {
  const std::string plain = plain_text(told);
  std::string text;
  for (size_t at = 0; at < plain.size();) {
    const char32_t letter = next_letter(plain, at);
    const bool begins_code =
        letter == '%' || letter == '\\' || letter == '^' || letter == '{' || letter == '}';
    const bool has_own_byte = (letter >= 0x20 && letter < 0x7F) || (letter >= 0xA0 && letter <= 0xFF);
    if (letter == 0xD8)
      text += "%%c";
    else if (has_own_byte && !begins_code)
      text += static_cast<char>(static_cast<unsigned char>(letter));
    else if (letter <= 0xFFFF)
      text += fmt::format("\\U+{:04X}", static_cast<unsigned>(letter));
    else
      text += "_";
  }
  return text;
}

// Group codes with their values, and the handles that name objects.
class Tags {
 public:
  void text(int code, const std::string& value) { written_ += fmt::format("{:3}\n{}\n", code, value); }
  void number(int code, int value) { text(code, fmt::format("{}", value)); }
  void number(int code, double value) { text(code, fmt::format("{:.9f}", value + 0.0)); }
  void point(int code, double x, double y) {
    number(code, x);
    number(code + 10, y);
    number(code + 20, 0.0);
  }
  std::string handle(int code = 5) {
    std::string own = fmt::format("{:X}", ++last_);
    text(code, own);
    return own;
  }
  [[nodiscard]] unsigned last_handle() const { return last_; }
  [[nodiscard]] const std::string& written() const { return written_; }

 private:
  std::string written_;
  unsigned last_ = 0x20;
};

class Writer {
 public:
  explicit Writer(const Drawing& drawing) : drawing_(drawing), per_mm_(1 / mm_per(drawing.unit)) {}

  std::string written() {
    write_tables();
    write_blocks();
    write_entities();
    write_objects();
    tags_.text(0, "EOF");
    return header() + tags_.written();
  }

 private:
  void begin_section(const char* name) {
    tags_.text(0, "SECTION");
    tags_.text(2, name);
  }
  void end_section() { tags_.text(0, "ENDSEC"); }

  // Written last, because it names the handle that is free.
  [[nodiscard]] std::string header() const {
    Tags head;
    head.text(0, "SECTION");
    head.text(2, "HEADER");
    head.text(9, "$ACADVER");
    head.text(1, "AC1015");
    head.text(9, "$DWGCODEPAGE");
    head.text(3, "ANSI_1252");
    head.text(9, "$INSUNITS");
    head.number(70, drawing_.unit == Unit::kInch ? 1 : 4);
    head.text(9, "$HANDSEED");
    head.text(5, fmt::format("{:X}", tags_.last_handle() + 1));
    head.text(0, "ENDSEC");
    return head.written();
  }

  void begin_table(const char* name, int count) {
    tags_.text(0, "TABLE");
    tags_.text(2, name);
    table_ = tags_.handle();
    tags_.text(330, "0");
    tags_.text(100, "AcDbSymbolTable");
    tags_.number(70, count);
  }
  void end_table() { tags_.text(0, "ENDTAB"); }

  // Returns its handle.
  std::string begin_row(const char* type, const char* kind, const std::string& name, int handle_code = 5) {
    tags_.text(0, type);
    std::string own = tags_.handle(handle_code);
    tags_.text(330, table_);
    tags_.text(100, "AcDbSymbolTableRecord");
    tags_.text(100, kind);
    tags_.text(2, name);
    return own;
  }

  void write_line_types() {
    begin_table("LTYPE", 3);
    for (const char* name : {"ByBlock", "ByLayer", "Continuous"}) {
      begin_row("LTYPE", "AcDbLinetypeTableRecord", name);
      tags_.number(70, 0);
      tags_.text(3, "");
      tags_.number(72, 65);
      tags_.number(73, 0);
      tags_.number(40, 0.0);
    }
    end_table();
  }

  void write_layer(const char* name, int colour, int hundredths_mm) {
    begin_row("LAYER", "AcDbLayerTableRecord", name);
    tags_.number(70, 0);
    tags_.number(62, colour);
    tags_.text(6, "Continuous");
    tags_.number(370, hundredths_mm);
  }

  void write_layers() {
    constexpr int kBlackOrWhite = 7, kGrey = 8, kOchre = 40, kThin = 25, kThick = 35;
    begin_table("LAYER", static_cast<int>(std::size(kLayers)) + 1);
    write_layer("0", kBlackOrWhite, kThin);
    for (const Layer layer : kLayers) {
      const int colour = layer == Layer::kCentres ? kOchre : layer == Layer::kTable ? kGrey : kBlackOrWhite;
      write_layer(layer_name(layer), colour, layer == Layer::kHoles ? kThick : kThin);
    }
    end_table();
  }

  void write_tables() {
    begin_section("TABLES");
    begin_table("VPORT", 0);
    end_table();
    write_line_types();
    write_layers();
    begin_table("STYLE", 1);
    begin_row("STYLE", "AcDbTextStyleTableRecord", "Standard");
    tags_.number(70, 0);
    tags_.number(40, 0.0);
    tags_.number(41, 1.0);
    tags_.number(50, 0.0);
    tags_.number(71, 0);
    tags_.number(42, 2.5);
    tags_.text(3, "txt");
    tags_.text(4, "");
    end_table();
    for (const char* empty : {"VIEW", "UCS"}) {
      begin_table(empty, 0);
      end_table();
    }
    begin_table("APPID", 1);
    begin_row("APPID", "AcDbRegAppTableRecord", "ACAD");  // the format asks for this entry
    tags_.number(70, 0);
    end_table();
    begin_table("DIMSTYLE", 0);
    tags_.text(100, "AcDbDimStyleTable");
    end_table();
    begin_table("BLOCK_RECORD", 2);
    model_ = begin_row("BLOCK_RECORD", "AcDbBlockTableRecord", "*Model_Space");
    paper_ = begin_row("BLOCK_RECORD", "AcDbBlockTableRecord", "*Paper_Space");
    end_table();
    end_section();
  }

  void write_block(const char* name, const std::string& record) {
    const auto begin = [&](const char* type, const char* kind) {
      tags_.text(0, type);
      tags_.handle();
      tags_.text(330, record);
      tags_.text(100, "AcDbEntity");
      tags_.text(8, "0");
      tags_.text(100, kind);
    };
    begin("BLOCK", "AcDbBlockBegin");
    tags_.text(2, name);
    tags_.number(70, 0);
    tags_.point(10, 0, 0);
    tags_.text(3, name);
    tags_.text(1, "");
    begin("ENDBLK", "AcDbBlockEnd");
  }

  void write_blocks() {
    begin_section("BLOCKS");
    write_block("*Model_Space", model_);
    write_block("*Paper_Space", paper_);
    end_section();
  }

  void begin_entity(const char* type, Layer layer, const char* kind) {
    tags_.text(0, type);
    tags_.handle();
    tags_.text(330, model_);
    tags_.text(100, "AcDbEntity");
    tags_.text(8, layer_name(layer));
    tags_.text(100, kind);
  }

  void point(int code, const gp_Pnt2d& p) { tags_.point(code, p.X() * per_mm_, p.Y() * per_mm_); }

  void write_entities() {
    begin_section("ENTITIES");
    for (const Drawing::Stroke& stroke : drawing_.strokes)
      for (size_t i = 1; i < stroke.points.size(); ++i) {
        begin_entity("LINE", stroke.layer, "AcDbLine");
        point(10, stroke.points[i - 1]);
        point(11, stroke.points[i]);
      }
    for (const Drawing::Circle& circle : drawing_.circles) {
      begin_entity("CIRCLE", Layer::kHoles, "AcDbCircle");
      point(10, circle.centre);
      tags_.number(40, circle.radius_mm * per_mm_);
    }
    for (const Drawing::Text& text : drawing_.texts) {
      begin_entity("TEXT", text.layer, "AcDbText");
      point(10, text.at);
      tags_.number(40, text.height_mm * per_mm_);
      tags_.text(1, in_dxf(text.text));
      tags_.text(7, "Standard");
      tags_.text(100, "AcDbText");
    }
    end_section();
  }

  void write_objects() {
    begin_section("OBJECTS");
    tags_.text(0, "DICTIONARY");
    const std::string root = tags_.handle();
    tags_.text(330, "0");
    tags_.text(100, "AcDbDictionary");
    tags_.number(281, 1);
    tags_.text(3, "ACAD_GROUP");
    tags_.text(350, fmt::format("{:X}", tags_.last_handle() + 1));
    tags_.text(0, "DICTIONARY");
    tags_.handle();
    tags_.text(330, root);
    tags_.text(100, "AcDbDictionary");
    tags_.number(281, 1);
    end_section();
  }

  const Drawing& drawing_;
  double per_mm_;
  Tags tags_;
  std::string table_, model_, paper_;
};

}  // namespace

std::string drawing_dxf(const Drawing& drawing) {
  return Writer(drawing).written();
}

}  // namespace anvil
