// The tray: the picks as chips, what they determine as offers, and the parameters of the one being made.
#pragma once

#include <QWidget>

#include "app/state/session.h"

class QLabel;
class QListWidget;
class QPushButton;
class QScrollArea;
class QVBoxLayout;
class QFormLayout;
class QLineEdit;
class QToolButton;

namespace anvil::app {

class FirstLookCard;
class OfferList;
class RegionRow;
class SetupCard;

class Tray : public QWidget {
  Q_OBJECT
 public:
  explicit Tray(Session& session, QWidget* parent = nullptr);

  // Puts the keyboard into the first parameter of the draft, if it has one.
  bool focus_parameters();                 // the first that takes a number; false when none does
  bool focus_region();                     // the tolerance of a picked region; false when none is picked
  void start_number(const QString& text);  // the same, with what was typed so far
  [[nodiscard]] SetupCard& card() { return *card_; }
  [[nodiscard]] OfferList& offers() { return *offers_; }
  [[nodiscard]] FirstLookCard& first_look() { return *first_look_; }
  [[nodiscard]] bool shows_offers() const;

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  void build_picks(QVBoxLayout* layout);
  void build_draft(QVBoxLayout* layout);
  void build_solution_buttons(QVBoxLayout* box);
  void build_keep_buttons(QVBoxLayout* box);
  void show_picks();
  void show_draft();
  void rebuild_parameters();
  void add_moving_bodies();
  void add_aside_button();
  void add_parameter(const Parameter& parameter);
  void show_results();
  void show_solutions();
  void show_outcome();

  Session& session_;
  QLabel* sentence_ = nullptr;
  QLabel* picks_heading_ = nullptr;
  QListWidget* picks_ = nullptr;
  OfferList* offers_ = nullptr;
  FirstLookCard* first_look_ = nullptr;
  QWidget* draft_ = nullptr;
  QLabel* draft_sentence_ = nullptr;
  QFormLayout* parameters_ = nullptr;
  QLabel *solution_text_ = nullptr, *outcome_ = nullptr;
  QWidget* solution_row_ = nullptr;
  QPushButton* flip_ = nullptr;
  QPushButton* next_ = nullptr;
  QPushButton* quarter_ = nullptr;
  QPushButton* leave_out_ = nullptr;
  QPushButton* keep_ = nullptr;
  QPushButton* again_ = nullptr;
  QPushButton* as_setup_ = nullptr;
  QPushButton* as_plane_ = nullptr;
  RegionRow* region_ = nullptr;
  SetupCard* card_ = nullptr;
  QScrollArea* card_area_ = nullptr;
  QToolButton* aside_button_ = nullptr;
  std::vector<QWidget*> asides_;  // rows that are folded away
  QPushButton* go_on_ = nullptr;
  QPushButton* drop_ = nullptr;
  std::map<std::string, QLineEdit*> fields_;
  std::map<std::string, QLabel*> results_;
  std::string shown_construction_;
  int shown_entry_ = -1;
  bool refreshing_ = false;
};

}  // namespace anvil::app
