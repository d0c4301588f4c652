#include "support/dialects.h"

#include <fmt/format.h>
#include <gtest/gtest.h>

#include <BRepBuilderAPI_NurbsConvert.hxx>
#include <IFSelect_ReturnStatus.hxx>
#include <Interface_Static.hxx>
#include <STEPCAFControl_Writer.hxx>
#include <ShapeUpgrade_ShapeDivideAngle.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <XCAFApp_Application.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <cmath>
#include <map>
#include <utility>

#include "base/file.h"
#include "base/numbers.h"
#include "base/units.h"
#include "exchange/step_format.h"
#include "part/mend.h"
#include "part/mesh.h"
#include "support/fixtures.h"

namespace anvil::test {
namespace {

namespace fs = std::filesystem;
using Bodies = std::vector<Body>;

enum class SurfaceCurves { kWritten, kLeftOut };

bool write_as(const Bodies& bodies, const fs::path& file, WriteOptions options,
              SurfaceCurves curves = SurfaceCurves::kWritten) {
  options.surface_curves = curves == SurfaceCurves::kWritten;
  return write_step(bodies, options, file).has_value();
}

Dialect standard(const char* name, const char* schema, const char* unit, SurfaceCurves curves) {
  WriteOptions options;
  options.schema = schema;
  options.unit = unit;
  return {name, [=](const Bodies& bodies, const fs::path& file) {
            return write_as(bodies, file, options, curves);
          }};
}

// The solids changed before they are written without curves on surfaces.
Dialect reshaped(const char* name, std::function<TopoDS_Shape(const TopoDS_Shape&)> change,
                 const Within& within = {1e-4, 1e-6}) {
  return {name,
          [change = std::move(change)](Bodies bodies, const fs::path& file) {
            for (Body& body : bodies) {
              body.shape = change(body.shape);
              body.face_colours.clear();
            }
            return write_as(bodies, file, {}, SurfaceCurves::kLeftOut);
          },
          within};
}

TopoDS_Shape divided(const TopoDS_Shape& shape, double angle_rad) {
  ShapeUpgrade_ShapeDivideAngle divide(angle_rad, shape);
  divide.Perform();
  return divide.Result();
}

// The text changed after it was written without curves on surfaces.
Dialect respelled(const char* name, std::function<std::string(const std::string&)> change) {
  return {name, [change = std::move(change)](const Bodies& bodies, const fs::path& file) {
            if (!write_as(bodies, file, {}, SurfaceCurves::kLeftOut)) return false;
            const auto text = read_file(file);
            return text && write_file_atomically(file, change(*text)).has_value();
          }};
}

// Calls `on_number` and `on_other` for the pieces of the text outside quoted strings; strings and the header
// are kept.
template <class OnCharacter>
std::string data_rewritten(const std::string& text, OnCharacter on_character) {
  const size_t data = text.find("DATA;") + 5;
  std::string out = text.substr(0, data);
  bool quoted = false;
  for (size_t i = data; i < text.size();) {
    if (text[i] == '\'') quoted = !quoted;
    if (quoted) {
      out += text[i++];
      continue;
    }
    i = on_character(text, i, out);
  }
  return out;
}

bool is_digit(char c) {
  return c >= '0' && c <= '9';
}

// Numbers of instances far apart and backwards.
std::string renumbered(const std::string& text) {
  return data_rewritten(text, [](const std::string& t, size_t i, std::string& out) {
    if (t[i] != '#') {
      out += t[i];
      return i + 1;
    }
    size_t end = i + 1;
    while (is_digit(t[end])) ++end;
    out += fmt::format("#{}", 9'000'000 - 7 * *whole_number_from(t.substr(i + 1, end - i - 1)));
    return end;
  });
}

// Blanks, tabs, comments and line breaks wherever the format allows them.
std::string spaced(const std::string& text) {
  int count = 0;
  std::string out = data_rewritten(text, [&](const std::string& t, size_t i, std::string& o) {
    o += t[i];
    if (t[i] == ',' && ++count % 3 == 0) o += count % 2 ? "\r\n\t " : " /* of a part; it's ('here') */ ";
    if (t[i] == '(' && count % 5 == 0) o += "  ";
    return i + 1;
  });
  for (size_t at = 0; (at = out.find('\n', at)) != std::string::npos; at += 2)
    if (at == 0 || out[at - 1] != '\r') out.insert(at, "\r");
  return out;
}

// "12.5" as "12.5E+00", "0.25" as "25.E-2": other ways to spell the same number.
std::string with_exponents(const std::string& text) {
  return data_rewritten(text, [](const std::string& t, size_t i, std::string& out) {
    const bool starts =
        is_digit(t[i]) && (i == 0 || std::string_view("(,-").find(t[i - 1]) != std::string_view::npos);
    size_t end = i;
    while (starts && is_digit(t[end])) ++end;
    if (!starts || t[end] != '.') {
      out += t[i];
      return i + 1;
    }
    size_t after = end + 1;
    while (is_digit(t[after])) ++after;
    const bool plain = t[after] == ',' || t[after] == ')';
    out += t.substr(i, after - i) + (plain ? "E+00" : "");
    return after;
  });
}

// Each cylinder and cone turned about its own axis, so that its surface closes elsewhere than where the edge
// runs.
std::string with_turned_seams(const std::string& text) {
  std::map<long, std::string> instances;
  for (size_t at = text.find("DATA;"), end; (at = text.find('#', at)) != std::string::npos; at = end + 1) {
    end = text.find(';', at);
    const size_t equals = text.find('=', at);
    if (end == std::string::npos || equals > end) break;
    std::string name = text.substr(at + 1, equals - at - 1);
    while (!name.empty() && name.back() == ' ') name.pop_back();
    if (const auto id = whole_number_from(name)) instances[*id] = text.substr(equals + 1, end - equals - 1);
  }
  const auto references = [&](long id) {
    std::vector<long> found;
    const std::string& body = instances[id];
    for (size_t at = 0; (at = body.find('#', at)) != std::string::npos;) {
      size_t end = ++at;
      while (end < body.size() && is_digit(body[end])) ++end;
      found.push_back(*whole_number_from(body.substr(at, end - at)));
    }
    return found;
  };
  const auto direction = [&](long id) {
    const std::string& body = instances[id];
    std::string_view numbers = std::string_view(body).substr(body.rfind('(') + 1);
    double v[3] = {};
    for (double& n : v) {
      while (!numbers.empty() &&
             (numbers.front() == ',' || numbers.front() == ' ' || numbers.front() == '\n'))
        numbers.remove_prefix(1);
      n = take_number(numbers).value_or(0);
    }
    return gp_Dir(v[0], v[1], v[2]);
  };
  constexpr double kTurn_rad = 0.9;
  long next = instances.rbegin()->first + 1;
  std::string changed = text, added;
  for (const auto& [id, body] : instances) {
    if (body.find("CYLINDRICAL_SURFACE") == std::string::npos &&
        body.find("CONICAL_SURFACE") == std::string::npos)
      continue;
    const long position = references(id).front();
    const std::vector<long> parts = references(position);  // place, axis, reference direction
    if (parts.size() != 3) continue;
    const gp_Dir turned =
        direction(parts[2]).Rotated(gp_Ax1(gp_Pnt(0, 0, 0), direction(parts[1])), kTurn_rad);
    added += fmt::format("#{} = DIRECTION('',({:.15f},{:.15f},{:.15f}));\n", next, turned.X(), turned.Y(),
                         turned.Z());
    added += fmt::format("#{} = AXIS2_PLACEMENT_3D('',#{},#{},#{});\n", next + 1, parts[0], parts[1], next);
    const std::string from = fmt::format("#{} ={}", id, body);
    std::string to = from;
    const std::string old = fmt::format("#{}", position);
    to.replace(to.rfind(old), old.size(), fmt::format("#{}", next + 1));
    changed.replace(changed.find(from), from.size(), to);
    next += 2;
  }
  return changed.insert(changed.find("ENDSEC;", changed.find("DATA;")), added);
}

// An instance of an assembly that holds instances of an assembly, turned at each level.
gp_Trsf level_motion(int level) {
  gp_Trsf turn, shift;
  turn.SetRotation(gp_Ax1(gp_Pnt(10 * level, 5, -3), gp_Dir(1, level, 2)), 0.7 + 0.4 * level);
  shift.SetTranslation(gp_Vec(40, -25 * level, 60));
  return shift * turn;
}

bool write_nested(const Bodies& bodies, const fs::path& file) {
  Handle(TDocStd_Document) document;
  XCAFApp_Application::GetApplication()->NewDocument("BinXCAF", document);
  const Handle(XCAFDoc_ShapeTool) shapes = XCAFDoc_DocumentTool::ShapeTool(document->Main());
  const TDF_Label outer = shapes->NewShape(), inner = shapes->NewShape();
  TDataStd_Name::Set(outer, "mount");
  TDataStd_Name::Set(inner, "unit");
  for (const Body& body : bodies) {
    const TDF_Label label = shapes->AddShape(body.shape, false);
    TDataStd_Name::Set(label, TCollection_ExtendedString(body.name.c_str(), true));
    shapes->AddComponent(inner, label, TopLoc_Location(level_motion(1)));
  }
  shapes->AddComponent(outer, inner, TopLoc_Location(level_motion(2)));
  shapes->UpdateAssemblies();
  { const STEPCAFControl_Writer defines_parameters; }
  Interface_Static::SetIVal("write.surfacecurve.mode", 0);
  STEPCAFControl_Writer writer;
  writer.SetNameMode(true);
  const bool written =
      writer.Transfer(document, STEPControl_AsIs) && writer.Write(file.c_str()) == IFSelect_RetDone;
  Interface_Static::SetIVal("write.surfacecurve.mode", 1);
  return written;
}

}  // namespace

std::vector<Dialect> dialects() {
  std::vector<Dialect> all{
      standard("as this program writes it", "AP214IS", "MM", SurfaceCurves::kWritten),
      standard("without curves on surfaces", "AP214IS", "MM", SurfaceCurves::kLeftOut),
      standard("AP203", "AP203", "MM", SurfaceCurves::kLeftOut),
      standard("AP242", "AP242DIS", "MM", SurfaceCurves::kLeftOut),
      standard("inch", "AP214IS", "INCH", SurfaceCurves::kLeftOut),
      standard("metre", "AP214IS", "M", SurfaceCurves::kLeftOut),
      reshaped("faces in halves", [](const TopoDS_Shape& s) { return divided(s, kPi); }),
      reshaped("faces in quarters", [](const TopoDS_Shape& s) { return divided(s, kPi / 2); }),
      reshaped("B-splines",
               [](const TopoDS_Shape& s) { return BRepBuilderAPI_NurbsConvert(s, true).Shape(); },
               {2e-3, 1e-4}),
      respelled("other numbering", renumbered),
      respelled("other white space, comments and line ends", spaced),
      respelled("exponents", with_exponents),
      respelled("seams elsewhere", with_turned_seams),
      {"nested assemblies, turned", write_nested},
  };
  all.back().motion = level_motion(2) * level_motion(1);
  return all;
}

PartPtr written_and_read(const std::vector<Body>& bodies, const Dialect& dialect) {
  const TemporaryFolder folder;
  leave_out_fixing(folder.path());
  const fs::path file = folder.path() / "part.step";
  if (!dialect.write(bodies, file)) {
    ADD_FAILURE() << "cannot be written: " << dialect.name;
    return nullptr;
  }
  auto read = read_part_file(file, {});
  EXPECT_TRUE(read) << dialect.name << ": " << (read ? "" : read.error().sentence);
  if (!read) return nullptr;
  mesh_shape(compound_of(read->bodies));
  mend_bodies(read->bodies, {});
  return std::make_shared<const Part>(std::move(read->source), std::move(read->bodies));
}

}  // namespace anvil::test
