# cmake -DFILES=... -DOUT=file.cpp -P Embed.cmake: files as bytes of a program.
set(arrays "")
set(entries "")
set(number 0)
foreach(file IN LISTS FILES)
  file(READ ${file} bytes HEX)
  string(REGEX REPLACE "([0-9a-f][0-9a-f])" "0x\\1," bytes "${bytes}")
  get_filename_component(name ${file} NAME)
  string(APPEND arrays "constexpr unsigned char file_${number}[] = {${bytes}};\n")
  string(APPEND entries "    {\"${name}\", {file_${number}, sizeof file_${number}}},\n")
  math(EXPR number "${number} + 1")
endforeach()
file(WRITE ${OUT} "// Made by cmake/Embed.cmake.
#include \"page/files.hpp\"

namespace saunter::page {
namespace {
${arrays}constexpr Embedded files[] = {
${entries}};
}  // namespace
std::span<const Embedded> embedded_files() { return files; }
}  // namespace saunter::page
")
