# What the tests of strangers' projects share.
function(run)
  execute_process(COMMAND ${ARGV} RESULT_VARIABLE result OUTPUT_VARIABLE output ERROR_VARIABLE output)
  if(NOT result EQUAL 0)
    message(FATAL_ERROR "failed: ${ARGV}\n${output}")
  endif()
  set(output "${output}" PARENT_SCOPE)
endfunction()

# run_found(COMMAND...): runs the stranger's program, which must have found its way.
function(run_found)
  run(${ARGV})
  if(NOT output STREQUAL "found 6\n")
    message(FATAL_ERROR "${ARGV} printed: ${output}")
  endif()
endfunction()

# build_by_cmake(NAME COMPILER PREFIX PROJECT OPTIONS...) into ${WORK}/NAME, and runs it.
function(build_by_cmake name compiler prefix project)
  run(${CMAKE_COMMAND} -S ${project} -B ${WORK}/${name} -G Ninja -DCMAKE_PREFIX_PATH=${prefix} -DCMAKE_CXX_COMPILER=${compiler}
    "-DCMAKE_CXX_FLAGS=${FLAGS}" ${ARGN})
  run(${CMAKE_COMMAND} --build ${WORK}/${name})
  run_found(${WORK}/${name}/beach)
endfunction()

# Where pkg-config looks, and where the libraries are, below a prefix.
macro(look_below prefix)
  file(GLOB pc ${prefix}/lib*/pkgconfig ${prefix}/lib/*/pkgconfig)
  get_filename_component(libraries ${pc} DIRECTORY)
  set(ENV{PKG_CONFIG_PATH} ${pc})
endmacro()

# build_both_ways(NAME COMPILER PREFIX): the stranger's project against what was installed, by CMake and by pkg-config.
function(build_both_ways name compiler prefix)
  build_by_cmake(by_cmake_${name} ${compiler} ${prefix} ${SOURCE})
  look_below(${prefix})
  set(program ${WORK}/by_pkg_config_${name})
  run(sh -c "${compiler} -std=c++20 ${FLAGS} ${SOURCE}/main.cpp $(pkg-config --cflags --libs saunter-core) -o ${program}")
  run_found(${CMAKE_COMMAND} -E env LD_LIBRARY_PATH=${libraries} ${program})
endfunction()

# use_installed(PREFIX): with every compiler, and from C and scripts.
function(use_installed prefix)
  foreach(compiler IN LISTS COMPILERS)
    get_filename_component(name ${compiler} NAME)
    build_both_ways(${name} ${compiler} ${prefix})
  endforeach()
  calls_of_c(${prefix})
endfunction()

# calls_of_c(PREFIX): the tests' own calls and modules against an installed C interface.
function(calls_of_c prefix)
  look_below(${prefix})
  set(ENV{LD_LIBRARY_PATH} ${libraries})
  set(demo ${SOURCE}/../../demo)
  run(sh -c "cc -std=c99 -pedantic -Wall -Wextra -Werror ${FLAGS} ${SOURCE}/../capi/calls.c $(pkg-config --cflags --libs saunter) -o ${WORK}/calls")
  run(${WORK}/calls ${demo})
  run(${CMAKE_COMMAND} -S ${SOURCE}/c -B ${WORK}/by_c -G Ninja -DCMAKE_PREFIX_PATH=${prefix} "-DCMAKE_C_FLAGS=${FLAGS}"
    -DCALLS=${SOURCE}/../capi/calls.c)
  run(${CMAKE_COMMAND} --build ${WORK}/by_c)
  run(${WORK}/by_c/shell ${demo})
  if(NOT FLAGS MATCHES "sanitize")  # which would have to be loaded first
    set(ENV{PYTHONPATH} ${prefix}/share/saunter)
    set(ENV{PYTHONDONTWRITEBYTECODE} 1)
    set(ENV{LUA_PATH} "${prefix}/share/saunter/?.lua")
    foreach(script "/usr/bin/python3 ${SOURCE}/../capi/calls.py" "/usr/bin/luajit ${SOURCE}/../capi/calls.lua")
      separate_arguments(script)
      list(GET script 0 language)
      if(EXISTS ${language})
        run(${script} ${demo})
      endif()
    endforeach()
  endif()
endfunction()
