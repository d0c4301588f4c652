// bench_first_look FILE…: what the first look at a part takes beside its holes and the corners along one
// axis, which are found anyway. A row for each file, as Markdown.
#include <cstdio>
#include <filesystem>

#include "base/file.h"
#include "exchange/read_here.h"
#include "geom/quiet.h"
#include "job/first_look.h"
#include "part/mesh_once.h"
#include "part_of_file.h"
#include "seconds.h"

namespace {

using namespace anvil;
using bench::seconds;

void look_at(const char* file) {
  const PartPtr part = bench::part_of_file(file);
  if (!part) return;
  ResultCache cache;
  Result<HolesPtr> holes;
  const double finding = seconds([&] { holes = holes_once(cache, *part, {}); });
  if (!holes) return;
  const double corners =
      seconds([&] { static_cast<void>(corners_once(cache, *part, {}, holes->get(), {})); });
  size_t seats = 0;
  const double looking = seconds([&] { seats = first_look(*part, **holes, gp_Trsf()).seats.size(); });
  const double directions = seconds([&] {
    static_cast<void>(check_directions(cache, *part, **holes, gp_Trsf(), {}, Passages::kLookedAt, {}));
  });
  std::printf("| %s | %zu | %.2f | %.2f | %.2f | %.2f | %zu |\n",
              std::filesystem::path(file).filename().c_str(), part->topology().faces.size(), finding, corners,
              looking, directions, seats);
  std::fflush(stdout);
}

}  // namespace

int main(int argc, char** argv) {
  quiet_kernel();
  std::printf(
      "| file | faces | holes, s | corners, s | seats, s | other directions, s | seats "
      "|\n|---|---|---|---|---|---|---|\n");
  for (int i = 1; i < argc; ++i) look_at(argv[i]);
}
