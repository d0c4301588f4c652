// Qt first: OpenCASCADE's view headers bring X11 and its macros.
#pragma once
#include <QApplication>
#include <QOpenGLWidget>
#include <QPainter>
#include <QWidget>

#include "geom/precompiled.h"

#include <AIS_InteractiveContext.hxx>
#include <V3d_View.hxx>
