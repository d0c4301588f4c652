#include "app/view/crease_shade.h"

#include <QOpenGLContext>
#include <QOpenGLExtraFunctions>
#include <QOpenGLShaderProgram>
#include <QOpenGLVertexArrayObject>

namespace anvil::app {
namespace {

// One triangle over the whole picture.
constexpr const char* kVertex = R"(#version 130
void main() {
  gl_Position = vec4(float(gl_VertexID / 2) * 4.0 - 1.0, float(gl_VertexID % 2) * 4.0 - 1.0, 0.0, 1.0);
})";

// How far a place lies behind the mean of two places on opposite sides of it: nothing on a plane, however it
// leans (after Luft, Colditz and Deussen, "Image enhancement by unsharp masking the depth buffer", 2006).
constexpr const char* kFragment = R"(#version 130
uniform sampler2D depths;
uniform float range_px;  // from front to back, in pixels
uniform float pixels;    // of the screen, to one of a usual one
const vec2 directions[4] = vec2[4](vec2(1.0, 0.0), vec2(0.0, 1.0), vec2(0.7071, 0.7071), vec2(0.7071, -0.7071));
float depth_at(vec2 place) {
  ivec2 last = textureSize(depths, 0) - 1;
  return texelFetch(depths, clamp(ivec2(place), ivec2(0), last), 0).r;
}
void main() {
  float here = depth_at(gl_FragCoord.xy);
  if (here >= 1.0) discard;
  float valley = 0.0;
  for (int ring = 0; ring < 2; ++ring) {
    float radius = (ring == 0 ? 3.0 : 8.0) * pixels;
    for (int i = 0; i < (ring == 0 ? 2 : 4); ++i) {
      vec2 step = directions[i] * radius;
      // What drops away on one side hides no valley on the other.
      float a = here - depth_at(gl_FragCoord.xy + step), b = here - depth_at(gl_FragCoord.xy - step);
      float behind = 0.5 * (max(a, -abs(b)) + max(b, -abs(a))) * range_px / radius;
      valley += clamp((behind - 0.12) * 0.9, 0.0, 1.0) * (ring == 0 ? 0.08 : 0.055);
    }
  }
  gl_FragColor = vec4(vec3(1.0 - valley), 1.0);
})";

}  // namespace

struct CreaseShade::Gl {
  QOpenGLShaderProgram program;
  QOpenGLVertexArrayObject vertices;

  bool build() {
    return vertices.create() && program.addShaderFromSourceCode(QOpenGLShader::Vertex, kVertex) &&
           program.addShaderFromSourceCode(QOpenGLShader::Fragment, kFragment) && program.link();
  }

  void draw(QOpenGLExtraFunctions& f, unsigned depths, double range_px, double pixel_ratio) {
    constexpr GLenum kSrgbWriting = 0x8DB9;
    f.glDisable(kSrgbWriting);
    f.glDisable(GL_DEPTH_TEST);
    f.glDisable(GL_CULL_FACE);
    f.glEnable(GL_BLEND);
    f.glBlendFuncSeparate(GL_ZERO, GL_SRC_COLOR, GL_ZERO, GL_ONE);
    f.glActiveTexture(GL_TEXTURE0);
    f.glBindTexture(GL_TEXTURE_2D, depths);
    program.bind();
    program.setUniformValue("depths", 0);
    program.setUniformValue("range_px", static_cast<GLfloat>(range_px));
    program.setUniformValue("pixels", static_cast<GLfloat>(pixel_ratio));
    vertices.bind();
    f.glDrawArrays(GL_TRIANGLES, 0, 3);
    vertices.release();
    program.release();
    f.glBindTexture(GL_TEXTURE_2D, 0);
    f.glDisable(GL_BLEND);
    f.glEnable(GL_DEPTH_TEST);
  }
};

CreaseShade::CreaseShade() = default;
CreaseShade::~CreaseShade() = default;

void CreaseShade::darken(unsigned depth_texture, double mm_per_px, double depth_range_mm,
                         double pixel_ratio) {
  if (failed_ || !(mm_per_px > 0)) return;
  if (!gl_) {
    gl_ = std::make_unique<Gl>();
    failed_ = !gl_->build();
  }
  if (!failed_)
    gl_->draw(*QOpenGLContext::currentContext()->extraFunctions(), depth_texture, depth_range_mm / mm_per_px,
              pixel_ratio);
}

void CreaseShade::release() {
  gl_.reset();
}

}  // namespace anvil::app
