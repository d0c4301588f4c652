// What happened to the state of the window, told once: whoever shows something looks whether it concerns
// them.
//
//   connect(&session.bus(), &ChangeBus::changed, this, [this](Changes what) {
//     if (what & (Change::kJob | Change::kChecks)) fill();
//   });
#pragma once

#include <QFlags>
#include <QObject>

namespace anvil::app {

enum class Change : unsigned {
  kJob = 1u << 0,         // its entries, names, unit, reading frame: anything that an act changes
  kPart = 1u << 1,        // another part, or placed otherwise
  kRefined = 1u << 2,     // the same part, checked and meshed finely: nothing of it has moved
  kPicks = 1u << 3,       // and the offers they make
  kDraft = 1u << 4,       // what is being made, or what is pointed at
  kChecks = 1u << 5,      // holes and corners
  kLeft = 1u << 6,        // what the cutter in mind leaves
  kSurvey = 1u << 7,      // what stands around holes, what tool planes allow
  kList = 1u << 8,        // the list that holes are compared with
  kShown = 1u << 9,       // faces, places and patterns that a table shows on the part
  kPlace = 1u << 10,      // a place of the part to go to
  kSoundness = 1u << 11,  // findings
  kSeats = 1u << 12,      // that suggest themselves
  kBodies = 1u << 13,     // which are shown, and how
  kSetup = 1u << 14,      // opened or closed, or its proposals
  kToolPlane = 1u << 15,  // look along it
  kFirstLook = 1u << 16   // how the part could stand, what limits cutters along its directions
};
Q_DECLARE_FLAGS(Changes, Change)
Q_DECLARE_OPERATORS_FOR_FLAGS(Changes)

class ChangeBus : public QObject {
  Q_OBJECT
 public:
  using QObject::QObject;

  // At once, or with all others when the last hold ends. What a listener throws is told.
  void announce(Changes what);
  void tell(const QString& sentence) { Q_EMIT told(sentence); }

  // One act, one event: while it lives nothing is announced.
  class Hold {
   public:
    explicit Hold(ChangeBus& bus) : bus_(bus) { ++bus_.held_; }
    ~Hold();
    Hold(const Hold&) = delete;
    Hold& operator=(const Hold&) = delete;

   private:
    ChangeBus& bus_;
  };

 Q_SIGNALS:
  void changed(anvil::app::Changes what);
  void told(const QString& sentence);  // something the user must know; not an error of theirs

 private:
  int held_ = 0;
  Changes waiting_;
};

}  // namespace anvil::app
