// Machines: their files, and the angles that point the tool.
#include <gtest/gtest.h>

#include "base/units.h"
#include "geom/primitives.h"
#include "setup/kinematics.h"
#include "setup/shipped_machines.h"
#include "support/random.h"

namespace anvil {
namespace {

const Machine& shipped(const std::string& id) {
  for (const Machine& machine : shipped_machines())
    if (machine.id == id) return machine;
  throw std::runtime_error("no machine " + id);
}

// The same turns by Rodrigues' formula, without the kernel.
gp_XYZ turned(const gp_XYZ& v, const gp_Dir& axis, double angle) {
  const gp_XYZ k = axis.XYZ();
  return v * std::cos(angle) + k.Crossed(v) * std::sin(angle) + k * (k.Dot(v) * (1 - std::cos(angle)));
}

// What the machine does to the part's direction and to the tool, axis by axis from the load inwards.
double off(const Machine& machine, const gp_Dir& direction, const Angles& angles) {
  gp_XYZ part = direction.XYZ(), tool(0, 0, 1);
  for (size_t i = machine.rotary.size(); i-- > 0;) {
    const RotaryAxis& axis = machine.rotary[i];
    (axis.on_table ? part : tool) = turned(axis.on_table ? part : tool, axis.axis.Direction(), angles[i]);
  }
  return (part - tool).Modulus();
}

std::string two_axes(const char* first, const char* second) {
  return std::string(R"({"format": "true-anvil-machine", "version": 1, "name": "M", )") +
         R"("linear": {"X": [0, 1], "Y": [0, 1], "Z": [0, 1]}, "rotary": [)" + first + ", " + second + "]}";
}
const char* const kTableA =
    R"({"name": "A", "stands": "table", "axis": [1, 0, 0], "point": [0, 0, 0], "limits": [-90, 90]})";
const char* const kHeadB =
    R"({"name": "B", "stands": "head", "axis": [0, 1, 0], "point": [0, 0, 0], "limits": [-100, 100]})";

TEST(ShippedMachines, AreFiveAndReadBackAsWritten) {
  ASSERT_EQ(shipped_machines().size(), 5u);
  for (const Machine& machine : shipped_machines()) {
    const auto again = machine_from_json(machine_to_json(machine), machine.id);
    ASSERT_TRUE(again) << again.error().sentence;
    EXPECT_EQ(machine_to_json(*again), machine_to_json(machine));
    EXPECT_EQ(machine_summary(*again), machine_summary(machine));
  }
  EXPECT_EQ(machine_summary(shipped("cradle-ac")), "table A -120…30°, table C endless");
}

TEST(MachineFiles, NameTheFieldThatIsWrong) {
  const std::string good = two_axes(kTableA, kHeadB);
  ASSERT_TRUE(machine_from_json(good, "m"));
  const auto exchanged = [&](const std::string& what, const std::string& by) {
    std::string text = good;
    return text.replace(text.find(what), what.size(), by);
  };
  const std::pair<std::string, const char*> bad[] = {
      {exchanged("true-anvil-machine", "something"), "format"},
      {exchanged("\"version\": 1", "\"version\": 9"), "version"},
      {exchanged("\"name\": \"M\"", "\"name\": \"\""), "name"},
      {exchanged("\"X\": [0, 1]", "\"X\": [1, 0]"), "linear.X"},
      {exchanged("\"Z\": [0, 1]", "\"W\": [0, 1]"), "linear.Z"},
      {exchanged("\"A\"", "\"U\""), "rotary[0].name"},
      {exchanged("\"B\"", "\"A\""), "rotary[1].name"},
      {exchanged("table", "bed"), "rotary[0].stands"},
      {exchanged("[1, 0, 0]", "[0, 0, 0]"), "rotary[0].axis"},
      {exchanged("[0, 1, 0]", "[1, 0, 0]"), "rotary[1].axis"},
      {exchanged("[0, 0, 0]", "[0, 0]"), "rotary[0].point"},
      {exchanged("[-90, 90]", "[-90]"), "rotary[0].limits"},
      {exchanged("\"limits\": [-90, 90]", "\"endless\": false"), "rotary[0]"},
      {exchanged("\"limits\": [-90, 90]", "\"limits\": [-90, 90], \"endless\": true"), "rotary[0]"},
      {exchanged("\"limits\": [-90, 90]", "\"limit\": [-90, 90]"), "rotary[0].limit"},
      {good.substr(0, good.size() / 2), "not readable"}};
  for (const auto& [text, field] : bad) {
    const auto machine = machine_from_json(text, "m");
    ASSERT_FALSE(machine) << field;
    EXPECT_EQ(machine.error().sentence.rfind("machine m: ", 0), 0u) << machine.error().sentence;
    EXPECT_NE(machine.error().sentence.find(field), std::string::npos) << machine.error().sentence;
  }
}

struct Reach {
  const char* machine;
  double share;  // of all directions that it can point the tool along, limits aside
};
std::ostream& operator<<(std::ostream& out, const Reach& reach) {
  return out << reach.machine;
}
class Kinematics : public testing::TestWithParam<Reach> {};

// Every solution points the tool there; what is refused lies out of reach: the directions that are reached
// make up the share of the sphere that the axes' cones leave.
TEST_P(Kinematics, ForwardAgreesWithInverseForRandomDirections) {
  constexpr unsigned kSeed = 20261127;
  SCOPED_TRACE("seed " + std::to_string(kSeed));
  constexpr int kDirections = 100000;
  const Machine& machine = shipped(GetParam().machine);
  test::Random random(kSeed, 100);
  int reached = 0;
  double worst = 0;
  Angles before;
  for (int i = 0; i < kDirections; ++i) {
    const gp_Dir direction = random.direction();
    const auto poses = poses_for(machine, direction, before);
    if (!poses) continue;
    ++reached;
    for (const Pose& pose : *poses) {
      worst = std::max(worst, off(machine, direction, pose.angles));
      EXPECT_TRUE(towards_tool_at(machine, pose.angles).IsEqual(direction, 1e-9));
    }
    if (poses->size() == 2) {
      EXPECT_GT((*poses)[0].travel_rad + (*poses)[1].travel_rad, 0);
    }
    before = poses->front().angles;
  }
  EXPECT_LT(worst, 1e-9);
  EXPECT_NEAR(static_cast<double>(reached) / kDirections, GetParam().share, 0.01);
}
// A nutating head at 45° leans from 0° to 90°: half the sphere.
INSTANTIATE_TEST_SUITE_P(Shipped, Kinematics,
                         testing::Values(Reach{"bench-3axis", 0}, Reach{"rotary-a", 0}, Reach{"cradle-ac", 1},
                                         Reach{"head-bc", 1}, Reach{"nutating-bc", 0.5}));

TEST(KinematicsOf, OneAxisReachesItsCircleAndTellsWhatIsMissing) {
  const Machine& machine = shipped("rotary-a");
  for (const double degree : {0.0, 30.0, 90.0, 180.0, -120.0}) {
    const double angle = radians(degree);
    const auto poses = poses_for(machine, gp_Dir(0, std::sin(angle), std::cos(angle)));
    ASSERT_TRUE(poses) << degree;
    EXPECT_LT(off(machine, gp_Dir(0, std::sin(angle), std::cos(angle)), poses->front().angles), 1e-9);
  }
  const auto refused = poses_for(machine, gp_Dir(std::sin(radians(7)), 0, std::cos(radians(7))));
  ASSERT_FALSE(refused);
  EXPECT_NEAR(refused.error().facts.at("angle_rad"), radians(7), 1e-9);
  EXPECT_FALSE(poses_for(shipped("bench-3axis"), gp_Dir(0, 0.1, 1)));
  EXPECT_TRUE(poses_for(shipped("bench-3axis"), gp_Dir(0, 0, 1)));
}

// A positive A of the shipped cradle turns the part left-handed about X: a face that looks to +Y comes up at
// A −90 there… and its other solution at +90, beyond the limit.
TEST(KinematicsOf, SecondSolutionAndLimitsAreTold) {
  const auto poses = poses_for(shipped("cradle-ac"), gp_Dir(0, 1, 0));
  ASSERT_TRUE(poses);
  ASSERT_EQ(poses->size(), 2u);
  EXPECT_TRUE(poses->front().out_of.empty());
  EXPECT_NEAR(degrees(poses->front().angles[0]), -90, 1e-9);
  EXPECT_NEAR(degrees((*poses)[1].angles[0]), 90, 1e-9);
  EXPECT_EQ((*poses)[1].out_of, "A 90.000° is beyond -120…30°");
  EXPECT_EQ(poses->front().key, "first-negative");
  EXPECT_EQ((*poses)[1].key, "first-positive");
}

TEST(KinematicsOf, ToolAlongARotaryAxisLeavesItsAngleWhereItWas) {
  const auto poses = poses_for(shipped("cradle-ac"), gp_Dir(0, 0, 1), {radians(-40), radians(123)});
  ASSERT_TRUE(poses);
  ASSERT_EQ(poses->size(), 1u);
  EXPECT_TRUE(poses->front().is_singular());
  EXPECT_NEAR(poses->front().angles[0], 0, 1e-12);
  EXPECT_NEAR(degrees(poses->front().angles[1]), 123, 1e-9);
}

TEST(KinematicsOf, EndlessAxisGoesTheShortWayAndLimitedOnesWindBack) {
  const Machine& cradle = shipped("cradle-ac");
  const gp_Dir direction(0.3, 0.4, 0.8);
  for (int c = -2000; c < 2000; c += 77) {
    const auto poses = poses_for(cradle, direction, {0, radians(c)});
    ASSERT_TRUE(poses);
    for (const Pose& pose : *poses) EXPECT_LE(std::abs(degrees(pose.angles[1]) - c), 180 + 1e-9);
  }
  const Machine& fork = shipped("head-bc");
  for (int c = -350; c < 360; c += 50) {
    const auto poses = poses_for(fork, direction, {radians(c), 0});
    ASSERT_TRUE(poses);
    for (const Pose& pose : *poses) {
      EXPECT_TRUE(pose.out_of.empty()) << pose.out_of;
      EXPECT_LE(std::abs(degrees(pose.angles[0])), 360 + 1e-9);
    }
  }
}

// Any two axes, on either side, however they stand: as many solutions as two circles on a sphere have.
TEST(KinematicsOf, HoldsForRandomChains) {
  constexpr unsigned kSeed = 20261128;
  SCOPED_TRACE("seed " + std::to_string(kSeed));
  test::Random random(kSeed, 500);
  for (int i = 0; i < 20000; ++i) {
    Machine machine;
    machine.name = "any";
    for (const char* name : {"A", "C"})
      machine.rotary.push_back({name, random.whole(0, 1) == 0, random.axis(), std::nullopt});
    if (parallel(machine.rotary[0].axis.Direction(), machine.rotary[1].axis.Direction(), 0.05)) continue;
    const Angles angles{random.between(-3, 3), random.between(-3, 3)};
    const gp_Dir direction = towards_tool_at(machine, angles);
    ASSERT_LT(off(machine, direction, angles), 1e-12);
    const auto poses = poses_for(machine, direction);
    ASSERT_TRUE(poses) << i;
    bool found = false;
    for (const Pose& pose : *poses) {
      EXPECT_LT(off(machine, direction, pose.angles), 1e-9);
      found = found || (std::abs(std::remainder(pose.angles[0] - angles[0], 2 * kPi)) < 1e-6 &&
                        std::abs(std::remainder(pose.angles[1] - angles[1], 2 * kPi)) < 1e-6);
    }
    EXPECT_TRUE(found) << i;
  }
}

// Directions of real parts are off by 1e-9 to 1e-6: what the machine cannot turn out is told, not refused.
TEST(KinematicsOf, DirectionsALittleOffAreTakenAndTold) {
  for (const char* name : {"bench-3axis", "rotary-a"}) {
    const auto poses = poses_for(shipped(name), gp_Dir(2e-9, 0, 1));
    ASSERT_TRUE(poses) << name;
    EXPECT_NEAR(poses->front().off_rad, 2e-9, 1e-12);
    const auto refused = poses_for(shipped(name), gp_Dir(1e-5, 0, 1));
    ASSERT_FALSE(refused) << name;
    EXPECT_NE(refused.error().sentence.find("0.00057°"), std::string::npos) << refused.error().sentence;
    EXPECT_TRUE(poses_for(shipped(name), gp_Dir(1e-5, 0, 1), {}, 1e-4)) << name;  // as the job allows
  }
}

// Where the tool nearly lies along a rotary axis half the digits of 1 - cos are lost.
TEST(KinematicsOf, NearThePoleEveryDirectionIsReachedExactly) {
  for (const char* name : {"cradle-ac", "head-bc", "nutating-bc"}) {
    const Machine& machine = shipped(name);
    for (int i = 0; i < 26; ++i) {
      const double tilt = 1e-10 * std::pow(1.9, i);  // to 1e-3
      for (int half_rad = 0; half_rad < 13; ++half_rad) {
        const double turn = 0.5 * half_rad;
        const gp_Dir direction(std::sin(tilt) * std::cos(turn), std::sin(tilt) * std::sin(turn),
                               std::cos(tilt));
        const auto poses = poses_for(machine, direction);
        ASSERT_TRUE(poses) << name << " " << tilt << " " << turn;
        for (const Pose& pose : *poses)
          EXPECT_LT(off(machine, direction, pose.angles), 1e-9) << name << " " << tilt;
      }
    }
  }
}

// A solution that was kept stays that one, from wherever the machine comes.
TEST(KinematicsOf, SolutionsKeepTheirNamesHoweverTheyWind) {
  test::Random random(20261127, 1);
  for (const char* name : {"cradle-ac", "head-bc", "nutating-bc"}) {
    const Machine& machine = shipped(name);
    for (int i = 0; i < 200; ++i) {
      const gp_Dir direction = random.direction();
      const auto first = poses_for(machine, direction);
      if (!first || first->size() < 2) continue;
      const auto again = poses_for(machine, direction, {random.between(-20, 20), random.between(-20, 20)});
      ASSERT_TRUE(again);
      for (const Pose& pose : *first) {
        const auto same =
            std::find_if(again->begin(), again->end(), [&](const Pose& p) { return p.key == pose.key; });
        ASSERT_NE(same, again->end());
        for (size_t axis = 0; axis < 2; ++axis) {
          EXPECT_NEAR(std::remainder(pose.angles[axis] - same->angles[axis], 2 * kPi), 0, 1e-7) << name;
        }
      }
    }
  }
}

}  // namespace
}  // namespace anvil
