// A slight darkening where the picture of a part has valleys: at concave edges, in pockets, at the foot of
// what stands higher. Works on the depths of the finished picture, so it costs the same for every part.
#pragma once

#include <memory>

namespace anvil::app {

class CreaseShade {
 public:
  CreaseShade();
  ~CreaseShade();

  // Over the bound framebuffer, by a texture of its size with the depths of the scene: linear (a camera
  // without perspective), `depth_range_mm` from front to back. With a context current. Does nothing where the
  // driver cannot.
  void darken(unsigned depth_texture, double mm_per_px, double depth_range_mm, double pixel_ratio);
  void release();  // with the context current

 private:
  struct Gl;
  std::unique_ptr<Gl> gl_;
  bool failed_ = false;
};

}  // namespace anvil::app
