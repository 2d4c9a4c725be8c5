/// @file
/// Pictures of maps and of what was found on them, as PNG or SVG from one code path.
///
/// Units: pixels.
/// Errors: no bytes when a picture can't be made.
/// Cost: O(cells + pixels); a colour a cell and the surface while it is made.
/// Threads: any number, nothing is shared.
#pragma once

#include <memory>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include "saunter/draw/overlay.hpp"

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

/// How large a picture may become, in pixels. Text and margins grow with large ones; on narrow ones the legend lies
/// below the map.
struct PixelSize {
  int width = 1280;
  int height = 800;
  bool firm = false;  ///< maps too large for it are shown smaller, not the picture larger
};
inline constexpr int least_pixels = 240;
inline constexpr int most_pixels = 12'000;

/// What a picture shows: a map, and what is laid over it (saunter/draw/overlay/).
///
///     draw::Picture picture("Low tide", map);
///     picture.add(draw::Terrain()).add(draw::Path(cells));
///     write(file, draw::to_png(picture));
class Picture {
 public:
  Picture() = default;
  /// @param map  must live until the last picture is made
  Picture(std::string words, const Map& map) : title(std::move(words)), map_(&map) {}

  template <typename Kind>
  Picture& add(Kind overlay) {
    overlays_.push_back(std::make_shared<const Kind>(std::move(overlay)));
    return *this;
  }
  [[nodiscard]] const Map* map() const { return map_; }
  /// From the ground up.
  [[nodiscard]] std::vector<const Overlay*> overlays() const;

  std::string title;
  std::vector<std::pair<std::string, std::string>> facts = {};  ///< first lines of the legend: what, how much
  bool diamond = false;                                         ///< the sheared view of isometric games

 private:
  const Map* map_ = nullptr;
  std::vector<std::shared_ptr<const Overlay>> overlays_;
};

/// A chart of bars under pictures that are compared.
struct BarChart {
  struct Bar {
    std::string name;
    double value = 0;
    std::string words;  ///< the value as people read it
  };
  std::string title;
  std::vector<Bar> bars;
};

/// Several pictures on one sheet, in the order given, with one legend for all of them.
struct Sheet {
  std::string title;
  std::vector<std::pair<std::string, std::string>> facts = {};
  std::vector<Picture> panels = {};
  std::vector<BarChart> charts = {};
};

/// Where things lie: the cells are as large as the size allows, whole pixels unless they are very small. Maps too large
/// for it get a pixel a cell, up to `most_pixels`, or less; a long legend makes a picture higher.
/// @pre the picture has a map with cells
[[nodiscard]] Layout layout(const Picture& picture, PixelSize size = {});

/// The bytes of a PNG or an SVG file; none when it can't be made (no memory, no surface of that size, no map).
[[nodiscard]] std::string to_png(const Picture& picture, PixelSize size = {});
[[nodiscard]] std::string to_svg(const Picture& picture, PixelSize size = {});
[[nodiscard]] std::string to_png(const Sheet& sheet, PixelSize size = {});
[[nodiscard]] std::string to_svg(const Sheet& sheet, PixelSize size = {});

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
