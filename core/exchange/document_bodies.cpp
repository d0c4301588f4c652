#include "exchange/document_bodies.h"

#include <fmt/format.h>
#include <Quantity_Color.hxx>
#include <TCollection_ExtendedString.hxx>
#include <TDF_LabelSequence.hxx>
#include <TDataStd_Name.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS_TShape.hxx>
#include <XCAFApp_Application.hxx>
#include <XCAFDoc_ColorTool.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <functional>
#include <map>
#include <set>

#include "exchange/body_names.h"
#include "exchange/shape_bodies.h"

namespace anvil {
namespace {

std::string name_of(const TDF_Label& label) {
  Handle(TDataStd_Name) name;
  if (!label.FindAttribute(TDataStd_Name::GetID(), name)) return {};
  const TCollection_ExtendedString& text = name->Get();
  std::string utf8(static_cast<size_t>(text.LengthOfCString()) + 1, '\0');
  char* out = utf8.data();
  text.ToUTF8CString(out);
  utf8.resize(std::char_traits<char>::length(utf8.c_str()));
  return utf8;
}

std::optional<Colour> colour_of(const Handle(XCAFDoc_ColorTool) & tool, const TDF_Label& label) {
  Quantity_Color colour;
  for (const XCAFDoc_ColorType type : {XCAFDoc_ColorSurf, XCAFDoc_ColorGen}) {
    if (!tool->GetColor(label, type, colour)) continue;
    double r, g, b;
    colour.Values(r, g, b, Quantity_TOC_sRGB);
    return Colour{r, g, b};
  }
  return std::nullopt;
}

// Colours that the file gives to single faces or solids of a product.
using SubColours = std::vector<std::pair<TopoDS_Shape, Colour>>;

SubColours sub_colours(const Handle(XCAFDoc_ColorTool) & tool, const TDF_Label& product) {
  SubColours colours;
  TDF_LabelSequence labels;
  XCAFDoc_ShapeTool::GetSubShapes(product, labels);
  for (const TDF_Label& label : labels)
    if (auto colour = colour_of(tool, label))
      colours.emplace_back(XCAFDoc_ShapeTool::GetShape(label), *colour);
  return colours;
}

class Flattener {
 public:
  explicit Flattener(const Handle(TDocStd_Document) & document)
      : shapes_(XCAFDoc_DocumentTool::ShapeTool(document->Main())),
        colours_(XCAFDoc_DocumentTool::ColorTool(document->Main())) {}

  std::vector<Body> run() {
    TDF_LabelSequence free;
    shapes_->GetFreeShapes(free);
    const std::set<const TopoDS_TShape*> named = solids_of(free);
    for (const TDF_Label& label : free)
      if (!is_left_over(label, named)) visit(label, TopLoc_Location(), {}, std::nullopt, {});
    number_borrowed_names();
    return std::move(bodies_);
  }

 private:
  static void each_solid(const TDF_Label& label, const std::function<void(const TopoDS_TShape*)>& see) {
    for (TopExp_Explorer solids(XCAFDoc_ShapeTool::GetShape(label), TopAbs_SOLID); solids.More();
         solids.Next())
      see(solids.Current().TShape().get());
  }
  // Those of shapes with a name.
  static std::set<const TopoDS_TShape*> solids_of(const TDF_LabelSequence& labels) {
    std::set<const TopoDS_TShape*> solids;
    for (const TDF_Label& label : labels)
      if (!name_of(label).empty())
        each_solid(label, [&](const TopoDS_TShape* solid) { solids.insert(solid); });
    return solids;
  }
  // A representation mapped into another, which is mapped in turn, comes in what it is mapped into, and once
  // more by itself: without a name and where it does not lie.
  static bool is_left_over(const TDF_Label& label, const std::set<const TopoDS_TShape*>& named) {
    if (!name_of(label).empty()) return false;
    int count = 0;
    bool all = true;
    each_solid(label, [&](const TopoDS_TShape* solid) {
      ++count;
      all = all && named.count(solid) > 0;
    });
    return all && count > 0;
  }

  void visit(const TDF_Label& label, const TopLoc_Location& above, const std::string& instance,
             std::optional<Colour> inherited, std::vector<std::string> path) {
    TDF_Label product = label;
    TopLoc_Location here = above;
    if (XCAFDoc_ShapeTool::IsReference(label)) {
      here = above * XCAFDoc_ShapeTool::GetLocation(label);
      XCAFDoc_ShapeTool::GetReferredShape(label, product);
    }
    if (auto colour = colour_of(colours_, label)) inherited = colour;
    if (!inherited) inherited = colour_of(colours_, product);
    if (XCAFDoc_ShapeTool::IsAssembly(product)) {
      TDF_LabelSequence components;
      XCAFDoc_ShapeTool::GetComponents(product, components);
      const std::string name = name_of(product);
      path.push_back(!name.empty() ? name : !instance.empty() ? instance : "assembly");
      for (const TDF_Label& component : components)
        visit(component, here, name_of(component), inherited, path);
      return;
    }
    const size_t first = bodies_.size();
    add_bodies(product, here, name_for(product, instance, path), inherited);
    for (size_t i = first; i < bodies_.size(); ++i) bodies_[i].path = path;
  }

  // The product's name; where that is only a word like "SOLID", the name of what it is in.
  std::string name_for(const TDF_Label& product, const std::string& instance,
                       const std::vector<std::string>& path) {
    std::string own = name_of(product);
    if (!says_nothing(own)) return own;
    if (!path.empty() && !says_nothing(path.back())) {
      borrowed_.insert(path.back());
      return path.back();
    }
    if (!says_nothing(instance)) return instance;
    return !own.empty() ? own : instance.empty() ? "body" : instance;
  }

  // Several bodies that took the name of one assembly are told apart by numbers.
  void number_borrowed_names() {
    std::map<std::string, int> count, number;
    for (const Body& body : bodies_) ++count[body.name];
    for (Body& body : bodies_)
      if (const std::string name = body.name; borrowed_.count(name) && count[name] > 1)
        body.name += fmt::format(" {}", ++number[name]);
  }

  void add_bodies(const TDF_Label& product, const TopLoc_Location& here, const std::string& name,
                  std::optional<Colour> colour) {
    const TopoDS_Shape shape = XCAFDoc_ShapeTool::GetShape(product);
    const SubColours own = sub_colours(colours_, product);
    const size_t first = bodies_.size();
    for (TopExp_Explorer solids(shape, TopAbs_SOLID); solids.More(); solids.Next())
      add_body(solids.Current(), BodyKind::kSolid, name, here, colour, own);
    for (TopExp_Explorer shells(shape, TopAbs_SHELL, TopAbs_SOLID); shells.More(); shells.Next())
      add_body(shells.Current(), BodyKind::kShell, name, here, colour, own);
    if (const TopoDS_Shape loose = loose_faces(shape); !loose.IsNull())
      add_body(loose, BodyKind::kShell, name, here, colour, own);
    if (bodies_.size() - first < 2) return;
    for (size_t i = first; i < bodies_.size(); ++i) bodies_[i].name += fmt::format(" {}", i - first + 1);
  }

  void add_body(const TopoDS_Shape& shape, BodyKind kind, const std::string& name,
                const TopLoc_Location& here, std::optional<Colour> colour, const SubColours& own) {
    Body body{name, kind, shape, colour, {}};
    TopTools_IndexedMapOfShape faces;
    if (!own.empty()) TopExp::MapShapes(shape, TopAbs_FACE, faces);
    for (const auto& [sub, sub_colour] : own) {
      if (sub.IsSame(shape)) body.colour = sub_colour;
      if (const int index = faces.FindIndex(sub)) body.face_colours[index - 1] = sub_colour;
    }
    body.shape.Move(here);
    bodies_.push_back(std::move(body));
  }

  Handle(XCAFDoc_ShapeTool) shapes_;
  Handle(XCAFDoc_ColorTool) colours_;
  std::vector<Body> bodies_;
  std::set<std::string> borrowed_;
};

Quantity_Color kernel_colour(const Colour& c) {
  return Quantity_Color(c.r, c.g, c.b, Quantity_TOC_sRGB);
}

}  // namespace

Handle(TDocStd_Document) new_document() {
  Handle(TDocStd_Document) document;
  XCAFApp_Application::GetApplication()->NewDocument("BinXCAF", document);
  return document;
}

std::vector<Body> bodies_of(const Handle(TDocStd_Document) & document) {
  return Flattener(document).run();
}

Handle(TDocStd_Document) document_of(const std::vector<Body>& bodies) {
  Handle(TDocStd_Document) document = new_document();
  const Handle(XCAFDoc_ShapeTool) shapes = XCAFDoc_DocumentTool::ShapeTool(document->Main());
  const Handle(XCAFDoc_ColorTool) colours = XCAFDoc_DocumentTool::ColorTool(document->Main());
  for (const Body& body : bodies) {
    const TDF_Label label = shapes->AddShape(body.shape, false);
    TDataStd_Name::Set(label, TCollection_ExtendedString(body.name.c_str(), true));
    if (body.colour) colours->SetColor(label, kernel_colour(*body.colour), XCAFDoc_ColorSurf);
    if (body.face_colours.empty()) continue;
    TopTools_IndexedMapOfShape faces;
    TopExp::MapShapes(body.shape, TopAbs_FACE, faces);
    for (const auto& [index, colour] : body.face_colours) {
      if (index >= faces.Extent()) continue;
      const TDF_Label face = shapes->AddSubShape(label, faces(index + 1));
      if (!face.IsNull()) colours->SetColor(face, kernel_colour(colour), XCAFDoc_ColorSurf);
    }
  }
  return document;
}

}  // namespace anvil
