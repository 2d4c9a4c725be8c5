// Status, messages, boards: what all other calls need.
#include <array>

#include "handles.hpp"
#include "saunter/search/verdict.hpp"
#include "saunter/version.hpp"

namespace saunter::c {
namespace {

/// The words of each thread's last error. A fixed place: telling that memory is out must not need any.
std::array<char, 512>& message_of_thread() {
  thread_local std::array<char, 512> message = {};
  return message;
}

}  // namespace

void set_message(const char* message) noexcept {
  std::array<char, 512>& kept = message_of_thread();
  std::size_t length = std::min(std::strlen(message), kept.size() - 1);
  // Never within a character.
  while (length > 0 && (static_cast<unsigned char>(message[length]) & 0xC0U) == 0x80U) --length;
  std::memcpy(kept.data(), message, length);
  kept[length] = '\0';
}

Tiling tiling_of(std::int32_t tiling) {
  switch (tiling) {
    case SAUNTER_SQUARE: return Tiling::square();
    case SAUNTER_HEX_POINTY_ODD: return Tiling::hex(HexTop::pointy, Shift::odd);
    case SAUNTER_HEX_POINTY_EVEN: return Tiling::hex(HexTop::pointy, Shift::even);
    case SAUNTER_HEX_FLAT_ODD: return Tiling::hex(HexTop::flat, Shift::odd);
    case SAUNTER_HEX_FLAT_EVEN: return Tiling::hex(HexTop::flat, Shift::even);
    case SAUNTER_TRIANGLE_UP: return Tiling::triangle(FirstTriangle::up);
    case SAUNTER_TRIANGLE_DOWN: return Tiling::triangle(FirstTriangle::down);
    default: fail(SAUNTER_BAD_ARGUMENT, "tiling: found " + std::to_string(tiling) + ", expected a saunter_tiling");
  }
}

Board board_of(const saunter_board* board) {
  expect_given(board, "board");
  const saunter_board told = taken(board, "board");
  const auto line = [](std::int32_t cells) { return cells >= 1 && cells <= max_line_cells; };
  const bool sound =
      line(told.cols) && line(told.rows) && std::size_t(told.cols) * std::size_t(told.rows) <= max_map_cells;
  if (!sound) {
    fail(SAUNTER_BAD_ARGUMENT, "board: found " + std::to_string(told.cols) + " x " + std::to_string(told.rows) +
                                   " cells, expected 1 to 65535 a line and 33554432 in all");
  }
  return {tiling_of(told.tiling), {told.cols, told.rows}};
}

void give_board(const Board& board, saunter_board* out) {
  expect_result(out, "out");
  saunter_board told = {};
  for (std::int32_t tiling = SAUNTER_SQUARE; tiling <= SAUNTER_TRIANGLE_DOWN; ++tiling) {
    if (tiling_of(tiling) == board.tiling) told.tiling = tiling;
  }
  told.cols = board.size.cols;
  told.rows = board.size.rows;
  give(told, out);
}

std::size_t mover_number(const std::vector<Mover>& movers, const char* name) {
  if (movers.empty()) fail(SAUNTER_BAD_ARGUMENT, "mover: found none in the scenario, expected one");
  if (name == nullptr || *name == '\0') return 0;
  const auto found = std::find_if(movers.begin(), movers.end(), [&](const Mover& mover) { return mover.name == name; });
  if (found == movers.end())
    fail(SAUNTER_BAD_ARGUMENT, "mover: found \"" + std::string(name) + "\", which there is not");
  return static_cast<std::size_t>(found - movers.begin());
}

const io::Unit& unit_of(const io::Scenario& scenario, const char* name) {
  expect_given(name, "unit");
  const io::Unit* const unit = scenario.find_unit(name);
  if (unit == nullptr) fail(SAUNTER_BAD_ARGUMENT, "unit: found \"" + std::string(name) + "\", which there is not");
  return *unit;
}

}  // namespace saunter::c

using namespace saunter;
using namespace saunter::c;

const char* saunter_message(void) { return message_of_thread().data(); }

const char* saunter_status_name(int32_t status) {
  constexpr std::array names = {"ok",          "no",        "bad-handle", "bad-argument", "bad-size",
                                "short-array", "bad-input", "no-memory",  "unexpected"};
  return status >= 0 && static_cast<std::size_t>(status) < names.size() ? names[static_cast<std::size_t>(status)] : "";
}

const char* saunter_library_version(void) {
  static const std::string text(version());
  return text.c_str();
}

const char* saunter_reason_name(int32_t reason) {
  if (reason < SAUNTER_FOUND || reason > SAUNTER_NOT_ASKED) return "";
  return reason_name(static_cast<Reason>(reason)).data();  // literals: they end with a null
}
