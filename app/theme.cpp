#include "app/theme.h"

#include <QApplication>
#include <QFile>
#include <QFontDatabase>
#include <QPainter>
#include <QPalette>
#include <QPixmap>
#include <QSvgRenderer>

// Resources of a static library must be asked for by name, and outside any namespace.
static void load_resources() {
  Q_INIT_RESOURCE(resources);
}

namespace anvil::app {
namespace {

Theme g_theme = Theme::light();
int g_text_px = 12;

const char* const kStyle = R"(
* { font-size: @text; }
QMainWindow, QWidget#root { background: @paper; }
QMenuBar { background: @paper; color: @ink; border-bottom: 1px solid @line; }
QMenuBar::item { padding: 5px 9px; background: transparent; }
QMenuBar::item:selected { background: @hover; }
QMenu { background: @panel; color: @ink; border: 1px solid @line; padding: 4px; }
QMenu::item { padding: 5px 22px 5px 14px; }
QMenu::item:selected { background: @hover; }
QMenu::item:disabled { color: @quiet; }
QMenu::separator { height: 1px; background: @line; margin: 4px 6px; }
QToolTip { background: @panel; color: @ink; border: 1px solid @line; padding: 3px; }
QWidget#panel, QFrame#panel { background: @panel; }
QLabel { color: @ink; }
QLabel#quiet { color: @quiet; }
QLabel#heading { color: @quiet; font-size: @small; font-weight: 600; }
QLabel#warning { color: @bad; }
QToolButton { color: @ink; background: transparent; border: 1px solid transparent; border-radius: 4px; padding: 3px 6px; }
QToolButton:hover { background: @hover; }
QToolButton:checked { background: @hover; border-color: @line; }
QToolButton:disabled { color: @quiet; }
QToolButton::menu-indicator { image: none; width: 0px; }
QPushButton { color: @ink; background: @field; border: 1px solid @line; border-radius: 4px; padding: 5px 14px; }
QPushButton:hover { background: @hover; }
QPushButton:focus { border-color: @accent; }
QPushButton:disabled { color: @quiet; }
QPushButton#primary { background: @accent; color: @on_accent; border-color: @accent; }
QPushButton#primary:disabled { background: @line; color: @quiet; border-color: @line; }
QLineEdit, QComboBox { color: @ink; background: @field; border: 1px solid @line; border-radius: 4px; padding: 4px 6px; selection-background-color: @accent; selection-color: @on_accent; }
QLineEdit:focus, QComboBox:focus { border-color: @accent; }
QComboBox::drop-down { border: none; width: 18px; }
QComboBox::down-arrow { image: url(:/icons/chevron.svg); width: 11px; height: 11px; margin-right: 6px; }
QComboBox QAbstractItemView { background: @panel; color: @ink; border: 1px solid @line; selection-background-color: @hover; selection-color: @ink; outline: 0; }
QTreeView, QListView, QTableView { background: @panel; color: @ink; border: none; outline: 0; alternate-background-color: @paper; }
QTreeView::branch { image: none; border-image: none; }
anvil--app--Drawer QTreeView::branch:closed:has-children { image: url(:/icons/closed.svg); }
anvil--app--Drawer QTreeView::branch:open:has-children { image: url(:/icons/chevron.svg); }
QTreeView::item { padding: 3px 2px; border: none; }
QTreeView::item:selected, QListView::item:selected, QTableView::item:selected { background: @hover; color: @ink; }
QTreeView::item:hover, QListView::item:hover { background: @hover; }
QListView::item { padding: 4px 6px; border-bottom: 1px solid @line; }
QTableView { gridline-color: @line; selection-background-color: @hover; selection-color: @ink; }
QHeaderView::section { background: @paper; color: @quiet; border: none; border-bottom: 1px solid @line; padding: 4px 6px; }
QScrollBar:vertical { background: transparent; width: 9px; }
QScrollBar::handle:vertical { background: @line; border-radius: 4px; min-height: 24px; }
QScrollBar:horizontal { background: transparent; height: 9px; }
QScrollBar::handle:horizontal { background: @line; border-radius: 4px; min-width: 24px; }
QScrollBar::add-line, QScrollBar::sub-line { height: 0; width: 0; }
QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
QSplitter::handle { background: @line; }
QSlider::groove:horizontal { height: 4px; background: @line; border-radius: 2px; }
QSlider::handle:horizontal { width: 14px; margin: -6px 0; border-radius: 7px; background: @accent; }
QScrollArea#setup\.area, QWidget#setup_card { background: @panel; }
QFrame#strip { background: @paper; border-bottom: 1px solid @line; }
QFrame#view_row { background: @panel; border-bottom: 1px solid @line; }
QFrame#view_row QToolButton { padding: 2px 3px; font-size: @small; }
QFrame#drawer_row { background: @paper; border-top: 1px solid @line; }
QFrame#notice { background: @panel; border: 1px solid @accent; border-radius: 5px; }
QFrame#chip { background: @field; border: 1px solid @line; border-radius: 5px; }
)";

QString style_for(const Theme& t) {
  QString style = QString::fromUtf8(kStyle);
  const std::pair<const char*, QColor> colours[] = {
      {"@paper", t.paper}, {"@panel", t.panel},           {"@ink", t.ink},       {"@quiet", t.quiet_ink},
      {"@line", t.line},   {"@on_accent", t.accent_text}, {"@accent", t.accent}, {"@field", t.field},
      {"@hover", t.hover}, {"@bad", t.does_not_fit}};
  for (const auto& [name, colour] : colours) style.replace(QLatin1String(name), colour.name());
  style.replace(QLatin1String("@text"), QStringLiteral("%1px").arg(text_size_px()));
  style.replace(QLatin1String("@small"), QStringLiteral("%1px").arg(text_size_px() - 1));
  return style;
}

void load_fonts() {
  static bool loaded = false;
  if (loaded) return;
  loaded = true;
  load_resources();
  for (const char* name : {"Regular", "Medium", "SemiBold"})
    QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/Inter-%1.otf").arg(QLatin1String(name)));
}

}  // namespace

Theme Theme::light() {
  Theme t;
  t.paper = QColor(0xF3F1EC);
  t.panel = QColor(0xFBFAF7);
  t.ink = QColor(0x24282C);
  t.quiet_ink = QColor(0x5F656B);
  t.line = QColor(0xD8D4CB);
  t.accent = QColor(0x875B10);
  t.accent_text = QColor(0xFFFFFF);
  t.field = QColor(0xFFFFFF);
  t.hover = QColor(0xEBE4D3);
  t.view_background = QColor(0xE9E7E1);
  t.part = QColor(0xAEB4B4);
  t.part_edge = QColor(0x3A3F44);
  t.fits = QColor(0x2F6FB0);
  t.tight = QColor(0xD19A00);
  t.does_not_fit = QColor(0xB3261E);
  t.axis_x = QColor(0xC0392B);
  t.axis_y = QColor(0x2E8B3D);
  t.axis_z = QColor(0x2A5DB0);
  t.datum = QColor(0x6B4A0C);
  t.ghost = QColor(0x9A6B16);
  t.added = QColor(0x1F7A4D);
  t.removed = QColor(0xB23A6B);
  return t;
}

Theme Theme::dark_one() {
  Theme t = light();
  t.dark = true;
  t.paper = QColor(0x1F2225);
  t.panel = QColor(0x272B2F);
  t.ink = QColor(0xE6E3DC);
  t.quiet_ink = QColor(0xA1A6AB);
  t.line = QColor(0x3B4046);
  t.accent = QColor(0xD3A145);
  t.accent_text = QColor(0x1A1A1A);
  t.field = QColor(0x1B1E21);
  t.hover = QColor(0x383A38);
  t.view_background = QColor(0x2B2F33);
  t.part = QColor(0x9BA2A5);
  t.part_edge = QColor(0x121416);
  t.fits = QColor(0x6AA5E0);
  t.tight = QColor(0xE6B93C);
  t.does_not_fit = QColor(0xF4847F);
  t.axis_x = QColor(0xE2685C);
  t.axis_y = QColor(0x66BB6A);
  t.axis_z = QColor(0x6FA0E8);
  t.datum = QColor(0xE3BE74);
  t.ghost = QColor(0xE0B050);
  t.added = QColor(0x57C28A);
  t.removed = QColor(0xE57FA8);
  return t;
}

QColor Theme::pick(int index) const {
  static const QRgb kLight[] = {0x7A3E9D, 0x0B7A75, 0xB4521E, 0x2F5FA8};
  static const QRgb kDark[] = {0xC59AE0, 0x4FC1BB, 0xEE9A6B, 0x8DB4EE};
  return QColor((dark ? kDark : kLight)[index % 4]);
}

const Theme& theme() {
  return g_theme;
}

int text_size_px() {
  return g_text_px;
}

void apply_theme(QApplication& application, const Theme& t) {
  load_fonts();
  const bool is_set = g_theme.dark == t.dark && !application.styleSheet().isEmpty();
  if (is_set) return;  // every widget would be styled anew
  g_theme = t;
  // As large as the desktop has it, from what the layout was drawn for up to twice that.
  static const int desktop_px = QFontInfo(QApplication::font()).pixelSize();
  g_text_px = std::clamp(desktop_px, 12, 24);
  QFont font(QStringLiteral("Inter"));
  font.setPixelSize(g_text_px);
  application.setFont(font);
  QPalette palette;
  palette.setColor(QPalette::Window, t.paper);
  palette.setColor(QPalette::WindowText, t.ink);
  palette.setColor(QPalette::Base, t.panel);
  palette.setColor(QPalette::AlternateBase, t.paper);
  palette.setColor(QPalette::Text, t.ink);
  palette.setColor(QPalette::Button, t.panel);
  palette.setColor(QPalette::ButtonText, t.ink);
  palette.setColor(QPalette::Highlight, t.accent);
  palette.setColor(QPalette::HighlightedText, t.accent_text);
  palette.setColor(QPalette::PlaceholderText, t.quiet_ink);
  palette.setColor(QPalette::Link, t.accent);
  application.setPalette(palette);
  application.setStyleSheet(style_for(t));
}

QIcon icon(const QString& name, const QColor& colour) {
  QFile file(QStringLiteral(":/icons/%1.svg").arg(name));
  if (!file.open(QIODevice::ReadOnly)) return {};
  QByteArray svg = file.readAll();
  svg.replace("#000000", colour.name().toLatin1());
  QSvgRenderer renderer(svg);
  QPixmap pixmap(40, 40);
  pixmap.fill(Qt::transparent);
  QPainter painter(&pixmap);
  renderer.render(&painter);
  painter.end();
  pixmap.setDevicePixelRatio(2);
  return QIcon(pixmap);
}

QColor on_screen(const Colour& colour) {
  return QColor::fromRgbF(static_cast<float>(colour.r), static_cast<float>(colour.g),
                          static_cast<float>(colour.b));
}

QFont number_font(int delta) {
  QFont font(QStringLiteral("Inter"));
  font.setPixelSize(text_size_px() + delta);
  font.setStyleName(QStringLiteral("Regular"));
  return font;
}

}  // namespace anvil::app
