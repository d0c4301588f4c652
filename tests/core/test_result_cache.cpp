#include "job/result_cache.h"

#include <gtest/gtest.h>

#include "support/random.h"

namespace anvil {
namespace {

ContentKey key_of(int number) {
  KeyMaker maker;
  maker.add(number);
  return maker.key();
}

TEST(ContentKey, TellsApartWhatIsAddedInAnotherOrderOrCutElsewhere) {
  const auto key = [](auto... pieces) {
    KeyMaker maker;
    (maker.add(pieces), ...);
    return maker.key();
  };
  EXPECT_EQ(key("ab", "c"), key("ab", "c"));
  EXPECT_NE(key("ab", "c"), key("a", "bc"));
  EXPECT_NE(key("a", "b"), key("b", "a"));
  EXPECT_NE(key(1.0), key(1.0 + 1e-15));
  EXPECT_EQ(key(0.0), key(-0.0));
  EXPECT_NE(key(""), key());
}

TEST(ResultCache, LetsGoWhatWasUsedLongestAgo) {
  ResultCache cache(3600);
  for (int i = 0; i < 3; ++i) cache.keep(key_of(i), i, 1000);
  ASSERT_TRUE(cache.find<int>(key_of(0)));  // used: now 1 is the oldest
  cache.keep(key_of(3), 3, 1000);
  EXPECT_FALSE(cache.find<int>(key_of(1)));
  for (const int i : {0, 2, 3}) EXPECT_EQ(*cache.find<int>(key_of(i)), i);
  EXPECT_FALSE(cache.find<double>(key_of(0)));
  // Larger than all it may keep: handed back, and nothing else goes for it.
  EXPECT_EQ(*cache.keep(key_of(4), 4, 1000000), 4);
  EXPECT_FALSE(cache.find<int>(key_of(4)));
  EXPECT_EQ(cache.count(), 3u);
}

TEST(ResultCache, HoldsToItsLimitWhateverIsKept) {
  SCOPED_TRACE("seed 20261128");
  test::Random random(20261128);
  ResultCache cache(100000);
  std::map<int, int> last;
  for (int step = 0; step < 20000; ++step) {
    const int number = random.whole(0, 300);
    const auto found = cache.find<int>(key_of(number));
    EXPECT_TRUE(!found || *found == last.at(number));
    if (random.whole(0, 2) == 0) cache.keep(key_of(number), last[number] = step, random.whole(0, 3000));
    ASSERT_LE(cache.bytes(), 100000u);
  }
  EXPECT_GT(cache.count(), 20u);
}

}  // namespace
}  // namespace anvil
