// A scene of Embree with its device. Embree has memory of its own and says only when asked that it was given
// none: this asks, and throws std::bad_alloc then.
#pragma once

#include <embree3/rtcore.h>

#include <new>

#include "base/memory.h"

namespace anvil {

class RayScene {
 public:
  RayScene() : device_(rtcNewDevice(nullptr)) {
    if (!device_) no_memory();
    scene_ = rtcNewScene(device_);
    check();
  }
  ~RayScene() { release(); }
  RayScene(const RayScene&) = delete;
  RayScene& operator=(const RayScene&) = delete;

  [[nodiscard]] RTCDevice device() const { return device_; }
  [[nodiscard]] RTCScene scene() const { return scene_; }

  // Takes `geometry` over and builds the tree.
  void build(RTCGeometry geometry) {
    rtcCommitGeometry(geometry);
    rtcAttachGeometry(scene_, geometry);
    rtcReleaseGeometry(geometry);
    rtcCommitScene(scene_);
    check();
  }

 private:
  void check() {
    if (scene_ && rtcGetDeviceError(device_) != RTC_ERROR_OUT_OF_MEMORY) return;
    release();
    no_memory();
  }
  [[noreturn]] static void no_memory() {
    note_no_memory();
    throw std::bad_alloc();
  }
  void release() {
    if (scene_) rtcReleaseScene(scene_);
    if (device_) rtcReleaseDevice(device_);
    scene_ = nullptr;
    device_ = nullptr;
  }

  RTCDevice device_ = nullptr;
  RTCScene scene_ = nullptr;
};

}  // namespace anvil
