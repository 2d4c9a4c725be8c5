#include "saunter/io/png.hpp"

#include <png.h>

#include <cstring>
#include <new>
#include <vector>

namespace saunter::inline v0_2::io {
namespace {

// libpng reports errors by longjmp. Everything with a destructor lives in the callers of the two functions that call
// setjmp, and is reached through these plain structs only.

/// libpng's memory is ours, so that running out of it is not taken for a broken image.
struct Memory {
  bool ran_out = false;
};
void* take_memory(png_structp png, png_alloc_size_t bytes) {
  void* const taken = ::operator new(bytes, std::nothrow);
  if (taken == nullptr) static_cast<Memory*>(png_get_mem_ptr(png))->ran_out = true;
  return taken;
}
void give_back_memory(png_structp, png_voidp memory) { ::operator delete(memory); }

struct Decoding {
  Memory memory = {};
  std::string_view bytes;
  std::size_t next = 0;
  bool want_grey = false;
  png_structp png = nullptr;
  png_infop info = nullptr;
  Size size = {};
  int depth = 8;
  bool alpha = false;
  char error[128] = "";
  const char* refused = nullptr;  // found, when the file is a PNG but not one we take
  const char* expected = "";
};

void keep_message(char (&to)[128], const char* message) { std::strncpy(to, message, sizeof(to) - 1); }

void read_bytes(png_structp png, png_bytep to, std::size_t count) {
  auto* decoding = static_cast<Decoding*>(png_get_io_ptr(png));
  if (decoding->bytes.size() - decoding->next < count) png_error(png, "the file ends early");
  std::memcpy(to, decoding->bytes.data() + decoding->next, count);
  decoding->next += count;
}

[[noreturn]] void on_read_error(png_structp png, png_const_charp message) {
  keep_message(static_cast<Decoding*>(png_get_error_ptr(png))->error, message);
  png_longjmp(png, 1);
}
void on_warning(png_structp, png_const_charp) {}

/// Reads the header and sets the wanted form; false on any error or refusal.
bool begin(Decoding& d) {
  d.png = png_create_read_struct_2(PNG_LIBPNG_VER_STRING, &d, on_read_error, on_warning, &d.memory, take_memory,
                                   give_back_memory);
  if (d.png == nullptr) return false;
  if (setjmp(png_jmpbuf(d.png)) != 0) return false;
  d.info = png_create_info_struct(d.png);
  if (d.info == nullptr) return false;
  png_set_read_fn(d.png, &d, read_bytes);
  png_set_user_limits(d.png, static_cast<png_uint_32>(max_line_cells), static_cast<png_uint_32>(max_line_cells));
  png_read_info(d.png, d.info);
  const png_uint_32 width = png_get_image_width(d.png, d.info);
  const png_uint_32 height = png_get_image_height(d.png, d.info);
  if (std::size_t{width} * height > max_map_cells) {
    d.refused = "an image with too many pixels";
    d.expected = "at most 33554432 cells";
    return false;
  }
  d.size = {static_cast<std::int32_t>(width), static_cast<std::int32_t>(height)};
  const unsigned type = png_get_color_type(d.png, d.info);
  d.alpha = (type & PNG_COLOR_MASK_ALPHA) != 0 || png_get_valid(d.png, d.info, PNG_INFO_tRNS) != 0;
  if (d.want_grey) {
    if ((type & PNG_COLOR_MASK_COLOR) != 0 || d.alpha) {
      d.refused = "a PNG with colours or transparency";
      d.expected = "a grey PNG";
      return false;
    }
    d.depth = png_get_bit_depth(d.png, d.info) == 16 ? 16 : 8;
    png_set_packing(d.png);  // 1, 2 and 4 bits: one number a byte, not scaled
  } else {
    png_set_expand(d.png);
    png_set_strip_16(d.png);
    if ((type & PNG_COLOR_MASK_COLOR) == 0) png_set_gray_to_rgb(d.png);
  }
  png_set_interlace_handling(d.png);
  png_read_update_info(d.png, d.info);
  return true;
}

bool read_rows(Decoding& d, png_bytepp rows) {
  if (setjmp(png_jmpbuf(d.png)) != 0) return false;
  png_read_image(d.png, rows);
  png_read_end(d.png, nullptr);
  return true;
}

/// Frees libpng's structures at the end of a scope.
struct ReadGuard {
  Decoding& decoding;
  ~ReadGuard() { png_destroy_read_struct(&decoding.png, &decoding.info, nullptr); }
};

Error decode_error(const Decoding& d, const std::string& name) {
  if (d.memory.ran_out || d.png == nullptr) throw std::bad_alloc();
  if (d.refused != nullptr) return {name, 0, 0, d.refused, d.expected};
  return {name, 0, 0, std::string("a broken image (") + d.error + ")", "a PNG"};
}

/// The raw rows of an image: `bytes_per_pixel` bytes a pixel.
struct Raw {
  std::vector<unsigned char> bytes;
  std::size_t row_bytes = 0;
};

Result<Raw> decode(Decoding& d, const std::string& name) {
  const ReadGuard guard{d};
  constexpr std::size_t signature = 8;
  if (d.bytes.size() < signature || png_sig_cmp(reinterpret_cast<png_const_bytep>(d.bytes.data()), 0, signature) != 0) {
    return Error{name, 0, 0, "something else", "a PNG"};
  }
  if (!begin(d)) return decode_error(d, name);
  Raw raw;
  raw.row_bytes = png_get_rowbytes(d.png, d.info);
  raw.bytes.resize(raw.row_bytes * static_cast<std::size_t>(d.size.rows));
  std::vector<png_bytep> rows;
  for (std::size_t r = 0; r < static_cast<std::size_t>(d.size.rows); ++r) {
    rows.push_back(raw.bytes.data() + r * raw.row_bytes);
  }
  if (!read_rows(d, rows.data())) return decode_error(d, name);
  return raw;
}

struct Encoding {
  Memory memory = {};
  std::string* out = nullptr;
};

void write_bytes(png_structp png, png_bytep from, std::size_t count) {
  auto* const encoding = static_cast<Encoding*>(png_get_io_ptr(png));
  try {
    encoding->out->append(reinterpret_cast<const char*>(from), count);
  } catch (const std::bad_alloc&) {  // it must not pass through C
    encoding->memory.ran_out = true;
  }
  if (encoding->memory.ran_out) png_error(png, "no memory");
}
[[noreturn]] void on_write_error(png_structp png, png_const_charp) { png_longjmp(png, 1); }
void flush_nothing(png_structp) {}

/// Nothing in it has a destructor: it may be left by longjmp. @return whether all was written
bool write_image(Encoding& encoding, Size size, int color_type, int depth, const unsigned char* bytes,
                 std::size_t row_bytes) {
  png_structp png = png_create_write_struct_2(PNG_LIBPNG_VER_STRING, nullptr, on_write_error, on_warning,
                                              &encoding.memory, take_memory, give_back_memory);
  if (png == nullptr) return false;
  png_infop info = nullptr;
  if (setjmp(png_jmpbuf(png)) != 0) {
    png_destroy_write_struct(&png, &info);
    return false;
  }
  info = png_create_info_struct(png);
  if (info == nullptr) png_error(png, "no memory");
  png_set_write_fn(png, &encoding, write_bytes, flush_nothing);
  png_set_IHDR(png, info, static_cast<png_uint_32>(size.cols), static_cast<png_uint_32>(size.rows), depth, color_type,
               PNG_INTERLACE_NONE, PNG_COMPRESSION_TYPE_DEFAULT, PNG_FILTER_TYPE_DEFAULT);
  png_write_info(png, info);
  for (std::size_t r = 0; r < static_cast<std::size_t>(size.rows); ++r) png_write_row(png, bytes + r * row_bytes);
  png_write_end(png, info);
  png_destroy_write_struct(&png, &info);
  return true;
}

std::string encode(Size size, int color_type, int depth, const std::vector<unsigned char>& bytes,
                   std::size_t row_bytes) {
  std::string out;
  Encoding encoding{{}, &out};
  if (!write_image(encoding, size, color_type, depth, bytes.data(), row_bytes)) throw std::bad_alloc();
  return out;
}

}  // namespace

Result<Grid<Rgb>> decode_rgb_png(std::string_view bytes, const std::string& name) {
  Decoding d{.bytes = bytes};
  const Result<Raw> raw = decode(d, name);
  if (!raw) return raw.error();
  const std::size_t channels = d.alpha ? 4 : 3;
  Grid<Rgb> pixels(d.size);
  for (std::int32_t row = 0; row < d.size.rows; ++row) {
    const unsigned char* at = raw.value().bytes.data() + static_cast<std::size_t>(row) * raw.value().row_bytes;
    std::int32_t col = 0;
    for (Rgb& pixel : pixels.row(row)) {
      if (d.alpha && at[3] != 255) {
        return Error{name, row + 1, col + 1, "a transparent pixel (alpha " + std::to_string(at[3]) + ")",
                     "opaque pixels only"};
      }
      pixel = {at[0], at[1], at[2]};
      at += channels;
      ++col;
    }
  }
  return pixels;
}

Result<GreyImage> decode_grey_png(std::string_view bytes, const std::string& name) {
  Decoding d{.bytes = bytes, .want_grey = true};
  const Result<Raw> raw = decode(d, name);
  if (!raw) return raw.error();
  GreyImage image{Grid<std::uint16_t>(d.size), d.depth};
  for (std::int32_t row = 0; row < d.size.rows; ++row) {
    const unsigned char* at = raw.value().bytes.data() + static_cast<std::size_t>(row) * raw.value().row_bytes;
    for (std::uint16_t& pixel : image.pixels.row(row)) {
      pixel = d.depth == 16 ? static_cast<std::uint16_t>((at[0] << 8U) | at[1]) : at[0];
      at += d.depth / 8;
    }
  }
  return image;
}

std::string hex_color(Rgb color) {
  constexpr std::string_view digits = "0123456789abcdef";
  std::string text = "#";
  for (const unsigned channel : {color.red, color.green, color.blue}) {
    text += digits[channel >> 4U];
    text += digits[channel & 15U];
  }
  return text;
}

std::string encode_png(const Grid<Rgb>& pixels) {
  std::vector<unsigned char> bytes;
  bytes.reserve(pixels.values().size() * 3);
  for (const Rgb pixel : pixels.values()) bytes.insert(bytes.end(), {pixel.red, pixel.green, pixel.blue});
  return encode(pixels.size(), PNG_COLOR_TYPE_RGB, 8, bytes, static_cast<std::size_t>(pixels.size().cols) * 3);
}

std::string encode_grey_png(const Grid<std::uint16_t>& pixels, int bits) {
  const auto cols = static_cast<std::size_t>(pixels.size().cols);
  const std::size_t row_bytes = bits == 16 ? 2 * cols : bits == 4 ? (cols + 1) / 2 : cols;
  std::vector<unsigned char> bytes;
  bytes.reserve(row_bytes * static_cast<std::size_t>(pixels.size().rows));
  std::size_t col = 0;
  for (const std::uint16_t pixel : pixels.values()) {
    if (bits == 4) {
      if (col % 2 == 0)
        bytes.push_back(static_cast<unsigned char>(pixel << 4U));
      else
        bytes.back() = static_cast<unsigned char>(bytes.back() | (pixel & 15U));
      col = col + 1 == cols ? 0 : col + 1;
      continue;
    }
    if (bits == 16) bytes.push_back(static_cast<unsigned char>(pixel >> 8U));
    bytes.push_back(static_cast<unsigned char>(pixel & 0xFFU));
  }
  return encode(pixels.size(), PNG_COLOR_TYPE_GRAY, bits == 16 || bits == 4 ? bits : 8, bytes, row_bytes);
}

}  // namespace saunter::inline v0_2::io
