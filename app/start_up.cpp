#include "app/start_up.h"

#include <QCoreApplication>
#include <QSurfaceFormat>
#include <cstdlib>
#include <string>

namespace anvil::app {

const char* prepare_display() {
  const char* display = std::getenv("DISPLAY");
  if (!display || !*display)
    return "there is no display: start it on a desktop, or through ./run-demo, which brings its own";
  const char* platform = std::getenv("QT_QPA_PLATFORM");
  if (platform && *platform && std::string(platform) != "xcb") return "the 3D view needs QT_QPA_PLATFORM=xcb";
  ::setenv("QT_QPA_PLATFORM", "xcb", 1);
  ::setenv("QT_XCB_GL_INTEGRATION", "xcb_glx", 1);
  QCoreApplication::setAttribute(Qt::AA_ShareOpenGLContexts);
  QSurfaceFormat format;
  format.setDepthBufferSize(24);
  format.setStencilBufferSize(8);
  format.setProfile(QSurfaceFormat::CompatibilityProfile);
  QSurfaceFormat::setDefaultFormat(format);
  return nullptr;
}

}  // namespace anvil::app
