// Tells each solid of a STEP file as soon as the kernel has built it. Internal to core/exchange.
#pragma once

#include <Message_ProgressIndicator.hxx>
#include <TopoDS_Shape.hxx>
#include <Transfer_TransientProcess.hxx>
#include <functional>
#include <vector>

namespace anvil {

// The kernel's transfer has no such event, but it advances its progress after each face and keeps what it has
// built by entity; so each step looks at the entities that are new.
class BuiltSolids : public Message_ProgressIndicator {
 public:
  BuiltSolids(Handle(Transfer_TransientProcess) process, std::function<void(const TopoDS_Shape&)> tell)
      : process_(std::move(process)), tell_(std::move(tell)) {}

 protected:
  void Show(const Message_ProgressScope& scope, Standard_Boolean force) override;

 private:
  Handle(Transfer_TransientProcess) process_;
  std::function<void(const TopoDS_Shape&)> tell_;
  int seen_ = 0;
  std::vector<int> unfinished_;  // places of solids whose shape is not there yet
};

}  // namespace anvil
