#include <dxflib/dl_dxf.h>

#include <memory>

#include "base/file.h"
#include "report/drawing.h"

namespace anvil {
namespace {

// In Windows-1252, as the header says; letters it has no byte for by their number, and the diameter sign by
// its own code.
std::string in_dxf(const std::string& utf8) {
  std::string text;
  for (size_t i = 0; i < utf8.size();) {
    const auto lead = static_cast<unsigned char>(utf8[i]);
    const size_t length = lead < 0x80 ? 1 : lead < 0xE0 ? 2 : lead < 0xF0 ? 3 : 4;
    unsigned code = length == 1 ? lead : lead & (0xFFU >> (length + 1));
    for (size_t k = 1; k < length && i + k < utf8.size(); ++k)
      code = code << 6U | (static_cast<unsigned char>(utf8[i + k]) & 0x3FU);
    i += length;
    char number[16];
    const bool has_own_byte = (code >= 0x20 && code < 0x7F) || (code >= 0xA0 && code <= 0xFF);
    if (code == 0xD8)
      text += "%%c";
    else if (has_own_byte)
      text += static_cast<char>(code);
    else if (code >= 0x80 && code <= 0xFFFF) {
      std::snprintf(number, sizeof number, "\\U+%04X", code);
      text += number;
    } else
      text += ' ';
  }
  return text;
}

class Writer {
 public:
  Writer(const Drawing& drawing, DL_WriterA& out)
      : drawing_(drawing), out_(out), per_mm_(1 / mm_per(drawing.unit)) {}

  void write() {
    dxf_.writeHeader(out_);
    out_.dxfString(9, "$DWGCODEPAGE");
    out_.dxfString(3, "ANSI_1252");
    out_.dxfString(9, "$INSUNITS");
    out_.dxfInt(70, drawing_.unit == Unit::kInch ? 1 : 4);
    out_.sectionEnd();
    write_tables();
    write_blocks();
    out_.sectionEntities();
    write_entities();
    out_.sectionEnd();
    dxf_.writeObjects(out_);
    dxf_.writeObjectsEnd(out_);
    out_.dxfEOF();
    out_.close();
  }

 private:
  void write_tables() {
    out_.sectionTables();
    dxf_.writeVPort(out_);
    out_.tableLinetypes(3);
    for (const char* name : {"BYBLOCK", "BYLAYER", "CONTINUOUS"})
      dxf_.writeLinetype(out_, DL_LinetypeData(name, name, 0, 0, 0.0));
    out_.tableEnd();
    out_.tableLayers(static_cast<int>(std::size(kLayers)) + 1);
    dxf_.writeLayer(out_, DL_LayerData("0", 0), DL_Attributes("", 7, 25, "CONTINUOUS", 1.0));
    constexpr int kBlackOrWhite = 7, kGrey = 8, kOchre = 40;
    for (const Layer layer : kLayers) {
      const int colour = layer == Layer::kCentres ? kOchre : layer == Layer::kTable ? kGrey : kBlackOrWhite;
      dxf_.writeLayer(out_, DL_LayerData(layer_name(layer), 0),
                      DL_Attributes("", colour, layer == Layer::kHoles ? 35 : 25, "CONTINUOUS", 1.0));
    }
    out_.tableEnd();
    out_.tableStyle(1);
    dxf_.writeStyle(out_, DL_StyleData("Standard", 0, 0.0, 1.0, 0.0, 0, 2.5, "txt", ""));
    out_.tableEnd();
    dxf_.writeView(out_);
    dxf_.writeUcs(out_);
    out_.tableAppid(1);
    dxf_.writeAppid(out_, "ACAD");  // the format asks for this entry
    out_.tableEnd();
    dxf_.writeDimStyle(out_, 1, 1, 1, 1, 1);
    dxf_.writeBlockRecord(out_);
    out_.tableEnd();
    out_.sectionEnd();
  }

  void write_blocks() {
    out_.sectionBlocks();
    for (const char* name : {"*Model_Space", "*Paper_Space", "*Paper_Space0"}) {
      dxf_.writeBlock(out_, DL_BlockData(name, 0, 0.0, 0.0, 0.0));
      dxf_.writeEndBlock(out_, name);
    }
    out_.sectionEnd();
  }

  void write_entities() {
    const auto on = [](Layer layer) { return DL_Attributes(layer_name(layer), 256, -1, "BYLAYER", 1.0); };
    const auto x = [&](const gp_Pnt2d& p) { return p.X() * per_mm_; };
    const auto y = [&](const gp_Pnt2d& p) { return p.Y() * per_mm_; };
    for (const Drawing::Stroke& stroke : drawing_.strokes)
      for (size_t i = 1; i < stroke.points.size(); ++i)
        dxf_.writeLine(out_,
                       DL_LineData(x(stroke.points[i - 1]), y(stroke.points[i - 1]), 0, x(stroke.points[i]),
                                   y(stroke.points[i]), 0),
                       on(stroke.layer));
    for (const Drawing::Circle& circle : drawing_.circles)
      dxf_.writeCircle(out_, DL_CircleData(x(circle.centre), y(circle.centre), 0, circle.radius_mm * per_mm_),
                       on(Layer::kHoles));
    for (const Drawing::Text& text : drawing_.texts)
      dxf_.writeText(out_,
                     DL_TextData(x(text.at), y(text.at), 0, x(text.at), y(text.at), 0,
                                 text.height_mm * per_mm_, 1.0, 0, 0, 0, in_dxf(text.text), "Standard", 0.0),
                     on(text.layer));
  }

  const Drawing& drawing_;
  DL_WriterA& out_;
  double per_mm_;
  DL_Dxf dxf_;
};

}  // namespace

Result<std::string> drawing_dxf(const Drawing& drawing) {
  const TemporaryFolder folder;
  const auto path = folder.path() / "drawing.dxf";
  DL_Dxf dxf;
  const std::unique_ptr<DL_WriterA> out(dxf.out(path.c_str(), DL_Codes::AC1015));
  if (!out)
    return refuse(RefusalCode::kCannotWrite, "no temporary file for the drawing can be written to " +
                                                 folder.path().parent_path().string());
  Writer(drawing, *out).write();
  return read_file(path.string());
}

}  // namespace anvil
