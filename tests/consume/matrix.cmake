# Saunter's core inside the stranger's own build (add_subdirectory), installed from there, and used by CMake and pkg-config:
# static and shared, with each compiler.
include(${CMAKE_CURRENT_LIST_DIR}/common.cmake)
file(REMOVE_RECURSE ${WORK})
file(MAKE_DIRECTORY ${WORK}/inside)
file(WRITE ${WORK}/inside/CMakeLists.txt "cmake_minimum_required(VERSION 3.25)\nproject(beach LANGUAGES CXX)\n"
  "set(SAUNTER_INSTALL ON)\nadd_subdirectory(${SOURCE}/../.. saunter)\nadd_executable(beach ${SOURCE}/main.cpp)\n"
  "target_compile_options(beach PRIVATE -Wall -Wextra -Werror)\ntarget_link_libraries(beach PRIVATE saunter::core)\n")
foreach(compiler IN LISTS COMPILERS)
  foreach(shared OFF ON)
    get_filename_component(name ${compiler} NAME)
    set(name ${name}_shared_${shared})
    build_by_cmake(inside_${name} ${compiler} "" ${WORK}/inside -DBUILD_SHARED_LIBS=${shared} -DCMAKE_BUILD_TYPE=Debug
      -DCMAKE_CXX_FLAGS_DEBUG=-O0)
    run(${CMAKE_COMMAND} --install ${WORK}/inside_${name} --prefix ${WORK}/prefix_${name})
    file(GLOB library ${WORK}/prefix_${name}/lib*/libsaunter_core.so.0.2)
    if((shared AND NOT library) OR (library AND NOT shared))
      message(FATAL_ERROR "${name}: installed ${library}")
    endif()
    build_both_ways(${name} ${compiler} ${WORK}/prefix_${name})
  endforeach()
endforeach()
