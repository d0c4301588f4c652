#include "job/history.h"

#include <gtest/gtest.h>

#include "store/job_json.h"
#include "support/job_fixture.h"

namespace anvil {
namespace {

using test::JobFixture;

TEST(History, UndoAndRedoGiveBackTheVeryJob) {
  JobFixture f;
  History history(f.job);
  std::vector<std::string> states{job_to_json(history.now())};
  for (int i = 0; i < 5; ++i) {
    f.midway();
    history.act("plane", f.job);
    states.push_back(job_to_json(history.now()));
  }
  for (int i = 4; i >= 0; --i) {
    history.undo();
    EXPECT_EQ(job_to_json(history.now()), states[i]);
  }
  EXPECT_FALSE(history.can_undo());
  history.undo();
  for (int i = 1; i <= 5; ++i) {
    history.redo();
    EXPECT_EQ(job_to_json(history.now()), states[i]);
  }
  EXPECT_FALSE(history.can_redo());
}

TEST(History, AnActAfterUndoForgetsWhatWasUndone) {
  JobFixture f;
  History history(f.job);
  f.midway();
  history.act("one", f.job);
  history.undo();
  history.act("two", f.job);
  EXPECT_FALSE(history.can_redo());
  EXPECT_EQ(history.undo_name(), "two");
}

TEST(History, RepeatedActsOnOneFieldAreOneStepAndWhatComesBackIsNone) {
  JobFixture f;
  const int plane = f.midway(), above = f.offset_from(plane);
  History history(f.job);
  const auto hide = [&](int id) {
    history.act("eye", with_visible(history.now(), id, !history.now().find(id)->visible),
                "visible " + std::to_string(id));
  };
  hide(plane);
  hide(above);
  for (const char* distance : {"7", "8", "9"})
    history.act("distance",
                with_recipe(history.now(), above,
                            JobFixture::recipe("plane.offset", {{EntryReference{plane}, {}}},
                                               {{"distance", distance}})),
                "distance");
  history.undo();
  EXPECT_EQ(history.now().find(above)->datum()->recipe.parameters.at("distance"), "5");
  history.redo();
  EXPECT_EQ(history.now().find(above)->datum()->recipe.parameters.at("distance"), "9");
  for (int i = 0; i < 3; ++i) history.undo();
  EXPECT_FALSE(history.can_undo());
  EXPECT_TRUE(history.is_saved());
  hide(plane);
  hide(plane);
  EXPECT_FALSE(history.can_undo()) << "shown again, it is as it was";
  EXPECT_TRUE(history.is_saved());
}

TEST(History, SavedMeansTheStateThatWasSaved) {
  JobFixture f;
  History history(f.job);
  EXPECT_TRUE(history.is_saved());
  history.act("one", f.job);
  history.mark_saved();
  history.act("two", f.job);
  EXPECT_FALSE(history.is_saved());
  history.undo();
  EXPECT_TRUE(history.is_saved());
  history.undo();
  EXPECT_FALSE(history.is_saved());
  history.act("another way", f.job);  // as many acts as when it was saved, yet not the saved job
  EXPECT_FALSE(history.is_saved());
}

}  // namespace
}  // namespace anvil
