#include "exchange/incomplete_instances.h"

#include <fmt/format.h>

#include <IGESBasic_Name.hxx>
#include <IGESSolid_Face.hxx>
#include <IGESSolid_HArray1OfFace.hxx>
#include <IGESSolid_HArray1OfLoop.hxx>
#include <IGESSolid_ManifoldSolid.hxx>
#include <IGESSolid_Shell.hxx>
#include <IGESToBRep_CurveAndSurface.hxx>
#include <Interface_Check.hxx>
#include <Interface_EntityIterator.hxx>
#include <Interface_ReportEntity.hxx>
#include <StepGeom_HArray1OfPcurveOrSurface.hxx>
#include <StepGeom_SurfaceCurve.hxx>
#include <StepRepr_DefinitionalRepresentation.hxx>
#include <StepRepr_HArray1OfRepresentationItem.hxx>
#include <StepRepr_Representation.hxx>
#include <StepRepr_RepresentationItem.hxx>
#include <StepShape_ConnectedFaceSet.hxx>
#include <StepShape_EdgeCurve.hxx>
#include <StepShape_FaceSurface.hxx>
#include <StepShape_HArray1OfFace.hxx>
#include <StepToTopoDS_NMTool.hxx>
#include <StepToTopoDS_Tool.hxx>
#include <StepToTopoDS_TranslateFace.hxx>
#include <TColStd_HArray1OfInteger.hxx>
#include <TCollection_HAsciiString.hxx>
#include <Transfer_TransientProcess.hxx>
#include <cstring>
#include <set>
#include <vector>

#include "exchange/tried_apart.h"
#include "geom/guard.h"

namespace anvil {
namespace {

enum class Read { kWhole, kInPart, kNotAtAll };

// How much of an instance could be read; what cannot be a string is a name or a description, and not needed.
Read read_of(const Interface_InterfaceModel& model, int number) {
  if (!model.IsReportEntity(number)) return Read::kWhole;
  const Handle(Interface_Check)& check = model.ReportEntity(number)->Check();
  Read read = Read::kWhole;
  for (int i = 1; i <= check->NbFails(); ++i) {
    if (std::strstr(check->CFail(i), "Directory Entry")) return Read::kNotAtAll;  // IGES: no parameters
    if (!std::strstr(check->CFail(i), "String")) read = Read::kInPart;
  }
  return read;
}

// The instances of one model that lack something, spread to what cannot do without them.
class Incomplete {
 public:
  // What mentions others in a list that may be shorter loses the mention only; what needs nothing of them is
  // left as it is.
  enum class Kind { kNeedsAll, kList, kNeedsNone };

  Incomplete(const Interface_InterfaceModel& model, const Interface_Graph& graph)
      : model_(model), graph_(graph), is_(static_cast<size_t>(model.NbEntities()) + 1, false) {}

  using KindOf = Kind (*)(const Handle(Standard_Transient) &);

  void find(KindOf kind_of) {
    for (int i = 1; i <= model_.NbEntities(); ++i) {
      const Read read = read_of(model_, i);
      const bool is_list = kind_of(model_.Value(i)) == Kind::kList;
      if (read == Read::kNotAtAll || (read == Read::kInPart && !is_list)) add(i);
    }
    add_what_needs_itself(kind_of);
    spread(kind_of);
  }

  void spread(KindOf kind_of) {
    while (!waiting_.empty()) {
      const int number = waiting_.back();
      waiting_.pop_back();
      for (Interface_EntityIterator sharing = graph_.Sharings(model_.Value(number)); sharing.More();
           sharing.Next())
        if (kind_of(sharing.Value()) == Kind::kNeedsAll) add(model_.Number(sharing.Value()));
    }
  }

  void add(int number) {
    if (number <= 0 || is_[static_cast<size_t>(number)]) return;
    is_[static_cast<size_t>(number)] = true;
    waiting_.push_back(number);
    ++count_;
  }

  [[nodiscard]] bool has(const Handle(Standard_Transient) & entity) const {
    const int number = entity.IsNull() ? 0 : model_.Number(entity);
    return entity.IsNull() || (number > 0 && is_[static_cast<size_t>(number)]);
  }

  // `list` without what is incomplete; null when nothing is left.
  template <class List, class Of>
  [[nodiscard]] Handle(List) complete_ones(const Handle(List) & list, const Of& entity_of) const {
    if (list.IsNull()) return {};
    std::vector<int> kept;
    for (int i = list->Lower(); i <= list->Upper(); ++i)
      if (!has(entity_of(list->Value(i)))) kept.push_back(i);
    if (kept.empty()) return {};
    Handle(List) result = new List(1, static_cast<int>(kept.size()));
    for (size_t i = 0; i < kept.size(); ++i) result->SetValue(static_cast<int>(i) + 1, list->Value(kept[i]));
    return result;
  }

  [[nodiscard]] int count() const { return count_; }

 private:
  // References that lead back to where they began: builders would follow them for ever.
  void add_what_needs_itself(KindOf kind_of) {
    enum class Seen : char { kNot, kOnTheWay, kDone };
    std::vector<Seen> seen(is_.size(), Seen::kNot);
    struct Step {
      int number;
      Interface_EntityIterator needs;
    };
    std::vector<Step> way;
    const auto enter = [&](int number) {
      if (number <= 0 || kind_of(model_.Value(number)) == Kind::kNeedsNone) return;
      if (is_[static_cast<size_t>(number)]) return;  // what it refers to is not what it needs
      if (seen[static_cast<size_t>(number)] == Seen::kOnTheWay) add(number);
      if (seen[static_cast<size_t>(number)] != Seen::kNot) return;
      seen[static_cast<size_t>(number)] = Seen::kOnTheWay;
      way.push_back({number, graph_.Shareds(model_.Value(number))});
    };
    for (int i = 1; i <= model_.NbEntities(); ++i) {
      enter(i);
      while (!way.empty()) {
        Step& last = way.back();
        if (!last.needs.More()) {
          seen[static_cast<size_t>(last.number)] = Seen::kDone;
          way.pop_back();
          continue;
        }
        const int next = model_.Number(last.needs.Value());
        last.needs.Next();
        enter(next);
      }
    }
  }

  const Interface_InterfaceModel& model_;
  const Interface_Graph& graph_;
  std::vector<bool> is_;
  std::vector<int> waiting_;
  int count_ = 0;
};

Incomplete::Kind kind_in_step(const Handle(Standard_Transient) & entity) {
  if (entity->IsKind(STANDARD_TYPE(StepRepr_DefinitionalRepresentation)))  // of a curve on a surface
    return Incomplete::Kind::kNeedsAll;
  const bool list = entity->IsKind(STANDARD_TYPE(StepShape_ConnectedFaceSet)) ||
                    entity->IsKind(STANDARD_TYPE(StepGeom_SurfaceCurve)) ||
                    entity->IsKind(STANDARD_TYPE(StepRepr_Representation));
  if (list) return Incomplete::Kind::kList;
  return entity->IsKind(STANDARD_TYPE(StepRepr_RepresentationItem)) ? Incomplete::Kind::kNeedsAll
                                                                    : Incomplete::Kind::kNeedsNone;
}

Incomplete::Kind kind_in_iges(const Handle(Standard_Transient) & entity) {
  return entity->IsKind(STANDARD_TYPE(IGESSolid_Shell)) ? Incomplete::Kind::kList
                                                        : Incomplete::Kind::kNeedsAll;
}

void build(const Handle(StepData_StepModel) &, const Handle(StepShape_FaceSurface) & face,
           const Handle(Transfer_TransientProcess) & process) {
  StepToTopoDS_DataMapOfTRI built;
  StepToTopoDS_Tool tool(built, process);
  StepToTopoDS_NMTool none;
  static_cast<void>(StepToTopoDS_TranslateFace(face, tool, none));
}

void build(const Handle(IGESData_IGESModel) & model, const Handle(IGESSolid_Face) & face,
           const Handle(Transfer_TransientProcess) & process) {
  IGESToBRep_CurveAndSurface builder;
  builder.SetModel(model);
  builder.SetTransferProcess(process);
  static_cast<void>(builder.TransferGeometry(face));
}

// Faces that can be complete and still be nothing that can be built: they are built in processes of their
// own.
template <class Face, class Model>
void add_fatal_faces(const Handle(Model) & model, Incomplete& incomplete) {
  std::vector<Handle(Face)> faces;
  for (int i = 1; i <= model->NbEntities(); ++i)
    if (const auto face = Handle(Face)::DownCast(model->Value(i)); !face.IsNull() && !incomplete.has(face))
      faces.push_back(face);
  const Handle(Transfer_TransientProcess) process = new Transfer_TransientProcess(model->NbEntities());
  process->SetModel(model);
  constexpr unsigned kSeconds = 5;
  const auto attempt = [&](int begin, int end) {
    for (int i = begin; i < end; ++i)
      static_cast<void>(guarded("building", [&]() -> Result<void> {
        build(model, faces[static_cast<size_t>(i)], process);
        return {};
      }));
  };
  for (const int fatal : fatal_ones(static_cast<int>(faces.size()), kSeconds, attempt))
    incomplete.add(model->Number(faces[static_cast<size_t>(fatal)]));
}

// Shells without their incomplete faces; those of which nothing is left are incomplete as well.
void thin_out(const StepData_StepModel& model, Incomplete& incomplete) {
  for (int i = 1; i <= model.NbEntities(); ++i) {
    const auto shell = Handle(StepShape_ConnectedFaceSet)::DownCast(model.Value(i));
    if (shell.IsNull()) continue;
    const auto faces =
        incomplete.complete_ones(shell->CfsFaces(), [](const Handle(StepShape_Face) & f) { return f; });
    if (faces.IsNull())
      incomplete.add(i);
    else
      shell->SetCfsFaces(faces);
  }
}

// An edge whose curve has lost what it says of it on a surface keeps the curve alone.
void thin_out_edges(const StepData_StepModel& model, Incomplete& incomplete) {
  for (int i = 1; i <= model.NbEntities(); ++i) {
    const auto edge = Handle(StepShape_EdgeCurve)::DownCast(model.Value(i));
    if (edge.IsNull() || incomplete.has(edge)) continue;
    const auto curve = Handle(StepGeom_SurfaceCurve)::DownCast(edge->EdgeGeometry());
    if (curve.IsNull()) continue;
    if (incomplete.has(curve->Curve3d())) {
      incomplete.add(i);
      continue;
    }
    const auto left = incomplete.complete_ones(curve->AssociatedGeometry(),
                                               [](const StepGeom_PcurveOrSurface& p) { return p.Value(); });
    if (left.IsNull() || left->Length() < curve->NbAssociatedGeometry())
      edge->SetEdgeGeometry(curve->Curve3d());
  }
}

void thin_out_representations(const StepData_StepModel& model, const Incomplete& incomplete) {
  for (int i = 1; i <= model.NbEntities(); ++i) {
    const auto representation = Handle(StepRepr_Representation)::DownCast(model.Value(i));
    if (representation.IsNull()) continue;
    auto items = incomplete.complete_ones(
        representation->Items(), [](const Handle(StepRepr_RepresentationItem) & item) { return item; });
    if (items.IsNull()) items = new StepRepr_HArray1OfRepresentationItem();
    representation->SetItems(items);
  }
}

Handle(IGESSolid_Shell) empty_shell() {
  Handle(IGESSolid_Shell) shell = new IGESSolid_Shell;
  shell->Init(new IGESSolid_HArray1OfFace(), new TColStd_HArray1OfInteger());
  return shell;
}

// A shell keeps its complete faces, with their orientations. Whether it was whole.
bool thin_out(IGESSolid_Shell& shell, const Incomplete& incomplete) {
  std::vector<int> kept;
  const bool read = !incomplete.has(&shell);  // what was not read has no list
  for (int i = 1; read && i <= shell.NbFaces(); ++i)
    if (!incomplete.has(shell.Face(i))) kept.push_back(i);
  const int count = static_cast<int>(kept.size());
  if (read && count == shell.NbFaces()) return true;
  if (count == 0) {
    shell.Init(new IGESSolid_HArray1OfFace(), new TColStd_HArray1OfInteger());
    return false;
  }
  const Handle(IGESSolid_HArray1OfFace) faces = new IGESSolid_HArray1OfFace(1, count);
  const Handle(TColStd_HArray1OfInteger) orientations = new TColStd_HArray1OfInteger(1, count);
  for (int i = 1; i <= count; ++i) {
    faces->SetValue(i, shell.Face(kept[static_cast<size_t>(i) - 1]));
    orientations->SetValue(i, shell.Orientation(kept[static_cast<size_t>(i) - 1]) ? 1 : 0);
  }
  shell.Init(faces, orientations);
  return false;
}

// The kernel makes no solid of a shell that is not closed, and nothing else of it either: the solid lets go
// of it, so that it is built by itself.
void thin_out_solids(const IGESData_IGESModel& model, const Incomplete& incomplete) {
  std::set<const IGESSolid_Shell*> open;
  for (int i = 1; i <= model.NbEntities(); ++i)
    if (const auto shell = Handle(IGESSolid_Shell)::DownCast(model.Value(i));
        !shell.IsNull() && !thin_out(*shell, incomplete))
      open.insert(shell.get());
  for (int i = 1; i <= model.NbEntities(); ++i)
    if (const auto solid = Handle(IGESSolid_ManifoldSolid)::DownCast(model.Value(i));
        !solid.IsNull() &&
        (incomplete.has(solid) || solid->Shell().IsNull() || open.count(solid->Shell().get()) != 0))
      solid->Init(empty_shell(), true, {}, {});
}

}  // namespace

int leave_out_incomplete(const Handle(StepData_StepModel) & model, const Interface_Graph& graph) {
  Incomplete incomplete(*model, graph);
  incomplete.find(kind_in_step);
  add_fatal_faces<StepShape_FaceSurface>(model, incomplete);
  thin_out_edges(*model, incomplete);
  incomplete.spread(kind_in_step);
  thin_out(*model, incomplete);
  incomplete.spread(kind_in_step);
  thin_out_representations(*model, incomplete);
  return incomplete.count();
}

int leave_out_incomplete(const Handle(IGESData_IGESModel) & model, const Interface_Graph& graph) {
  Incomplete incomplete(*model, graph);
  incomplete.find(kind_in_iges);
  add_fatal_faces<IGESSolid_Face>(model, incomplete);
  thin_out_solids(*model, incomplete);
  for (int i = 1; i <= model->NbEntities(); ++i) {
    const Handle(IGESData_IGESEntity) entity = model->Entity(i);
    if (const auto face = Handle(IGESSolid_Face)::DownCast(entity); !face.IsNull() && incomplete.has(face))
      face->Init({}, false, new IGESSolid_HArray1OfLoop());  // what no shell mentions is built by itself
    if (const auto name = Handle(IGESBasic_Name)::DownCast(entity); !name.IsNull() && incomplete.has(name))
      name->Init(1, new TCollection_HAsciiString(""));
  }
  return incomplete.count();
}

Refusal nothing_left(const std::string& file, int left_out) {
  return {RefusalCode::kUnreadable,
          fmt::format("{} is damaged: {} of its instances lack something they need, and no face is left "
                      "without them; ask for the file again.",
                      file, left_out)};
}

}  // namespace anvil
