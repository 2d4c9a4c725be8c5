# The installed build: the stranger's project is built against it by CMake and by pkg-config, with both compilers.
include(${CMAKE_CURRENT_LIST_DIR}/common.cmake)
file(REMOVE_RECURSE ${WORK})
file(MAKE_DIRECTORY ${WORK})
use_installed(${PREFIX})

# Files and pictures, by pkg-config: what the libraries stand on is brought along.
look_below(${PREFIX})
list(GET COMPILERS 0 compiler)
run(sh -c "${compiler} -std=c++20 ${FLAGS} ${SOURCE}/files.cpp $(pkg-config --cflags --libs saunter-draw saunter-io) -o ${WORK}/files")
run(${WORK}/files ${SOURCE}/../../demo/strand.toml)
if(NOT output STREQUAL "found 1\n")
  message(FATAL_ERROR "files and pictures: ${output}")
endif()

# What is asked for and not there is told by name.
file(MAKE_DIRECTORY ${WORK}/asks)
file(WRITE ${WORK}/asks/CMakeLists.txt "cmake_minimum_required(VERSION 3.25)\nproject(asks LANGUAGES C CXX)\n"
  "find_package(saunter 0.2 REQUIRED COMPONENTS core io draw c)\nfind_package(saunter 0.2 REQUIRED COMPONENTS lighthouse)\n")
execute_process(COMMAND ${CMAKE_COMMAND} -S ${WORK}/asks -B ${WORK}/asks_build -G Ninja -DCMAKE_PREFIX_PATH=${PREFIX}
  RESULT_VARIABLE result OUTPUT_VARIABLE output ERROR_VARIABLE output)
if(result EQUAL 0 OR NOT output MATCHES "lighthouse" OR output MATCHES "component (io|draw|c) ")
  message(FATAL_ERROR "a missing component: ${output}")
endif()
