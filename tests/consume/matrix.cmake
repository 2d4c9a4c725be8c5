# Saunter's core inside the stranger's own build (add_subdirectory), installed from there, and used by CMake and pkg-config:
# static and shared, with each compiler.
include(${CMAKE_CURRENT_LIST_DIR}/common.cmake)
file(REMOVE_RECURSE ${WORK})
file(MAKE_DIRECTORY ${WORK}/inside)
file(WRITE ${WORK}/inside/CMakeLists.txt "cmake_minimum_required(VERSION 3.25)\nproject(beach LANGUAGES CXX)\n"
  "set(SAUNTER_INSTALL ON)\nadd_subdirectory(${SOURCE}/../.. saunter)\nadd_executable(beach ${SOURCE}/main.cpp)\n"
  "target_compile_options(beach PRIVATE -Wall -Wextra -Werror)\ntarget_link_libraries(beach PRIVATE saunter::core)\n")
# Debug programs of a released library are told of promises they break, release programs are not.
file(MAKE_DIRECTORY ${WORK}/checked)
file(WRITE ${WORK}/checked/CMakeLists.txt "cmake_minimum_required(VERSION 3.25)\nproject(checked LANGUAGES CXX)\n"
  "find_package(saunter 0.2 REQUIRED)\nadd_executable(checked ${SOURCE}/checked.cpp)\n"
  "target_link_libraries(checked PRIVATE saunter::core)\n")
function(tells_of_promises name compiler prefix)
  foreach(type told IN ZIP_LISTS types tolds)
    set(build ${WORK}/checked_${name}_${type})
    run(${CMAKE_COMMAND} -S ${WORK}/checked -B ${build} -G Ninja -DCMAKE_PREFIX_PATH=${prefix}
      -DCMAKE_CXX_COMPILER=${compiler} -DCMAKE_BUILD_TYPE=${type})
    run(${CMAKE_COMMAND} --build ${build})
    run(${build}/checked)
    if(NOT output STREQUAL "told ${told}, open 1\n")
      message(FATAL_ERROR "${type}, by CMake: ${output}")
    endif()
  endforeach()
  look_below(${prefix})
  run(sh -c "${compiler} -std=c++20 ${SOURCE}/checked.cpp $(pkg-config --cflags --libs saunter-core-checked) -o ${WORK}/checked_pc")
  run(${WORK}/checked_pc)
  if(NOT output STREQUAL "told 1, open 1\n")
    message(FATAL_ERROR "by pkg-config: ${output}")
  endif()
endfunction()
set(types Debug Release)
set(tolds 1 0)

foreach(compiler IN LISTS COMPILERS)
  foreach(shared OFF ON)
    get_filename_component(name ${compiler} NAME)
    set(name ${name}_shared_${shared})
    set(checked OFF)  # once is enough: it is a core more to build
    list(GET COMPILERS 0 first)
    if(NOT shared AND compiler STREQUAL first)
      set(checked ON)
    endif()
    build_by_cmake(inside_${name} ${compiler} "" ${WORK}/inside -DBUILD_SHARED_LIBS=${shared} -DCMAKE_BUILD_TYPE=Release
      -DSAUNTER_CHECKED_VARIANT=${checked}
      "-DCMAKE_CXX_FLAGS_RELEASE=-O0 -DNDEBUG")
    run(${CMAKE_COMMAND} --install ${WORK}/inside_${name} --prefix ${WORK}/prefix_${name})
    file(GLOB library ${WORK}/prefix_${name}/lib*/libsaunter_core.so.0.2)
    if((shared AND NOT library) OR (library AND NOT shared))
      message(FATAL_ERROR "${name}: installed ${library}")
    endif()
    build_both_ways(${name} ${compiler} ${WORK}/prefix_${name})
    if(checked)
      tells_of_promises(${name} ${compiler} ${WORK}/prefix_${name})
    endif()
  endforeach()
endforeach()
