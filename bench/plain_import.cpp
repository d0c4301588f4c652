// bench_plain_import FILE: OpenCASCADE's own STEP reader and default mesher in one process, as its manual
// shows them. Prints the seconds it took.
#include <BRepMesh_IncrementalMesh.hxx>
#include <STEPCAFControl_Reader.hxx>
#include <TDF_LabelSequence.hxx>
#include <TDocStd_Document.hxx>
#include <XCAFApp_Application.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <chrono>
#include <cstdio>

#include "geom/quiet.h"
#include "part/mesh.h"

int main(int argc, char** argv) {
  if (argc != 2) return 2;
  anvil::quiet_kernel();
  const auto start = std::chrono::steady_clock::now();
  STEPCAFControl_Reader reader;
  reader.SetColorMode(true);
  reader.SetNameMode(true);
  if (reader.ReadFile(argv[1]) != IFSelect_RetDone) return 1;
  Handle(TDocStd_Document) document;
  XCAFApp_Application::GetApplication()->NewDocument("BinXCAF", document);
  if (!reader.Transfer(document)) return 1;
  TDF_LabelSequence labels;
  XCAFDoc_DocumentTool::ShapeTool(document->Main())->GetFreeShapes(labels);
  const anvil::MeshQuality quality;
  for (const TDF_Label& label : labels) {
    const TopoDS_Shape shape = XCAFDoc_ShapeTool::GetShape(label);
    BRepMesh_IncrementalMesh(shape, anvil::deflection_mm(shape, quality), false, quality.angle_rad, false);
  }
  std::printf("%.3f\n", std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count());
  return 0;
}
