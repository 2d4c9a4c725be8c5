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

# build_by_pkg_config(NAME COMPILER PREFIX) from the .pc files below a prefix, and runs it.
function(build_by_pkg_config name compiler prefix)
  file(GLOB pc ${prefix}/lib*/pkgconfig ${prefix}/lib/*/pkgconfig)
  list(JOIN pc ":" pc)
  get_filename_component(libraries ${pc} DIRECTORY)
  set(ENV{PKG_CONFIG_PATH} ${pc})
  run(sh -c "${compiler} -std=c++20 ${FLAGS} ${SOURCE}/main.cpp $(pkg-config --cflags --libs saunter-core) -o ${WORK}/${name}")
  run_found(${CMAKE_COMMAND} -E env LD_LIBRARY_PATH=${libraries} ${WORK}/${name})
endfunction()

# calls_of_c(PREFIX): the tests' own calls and modules against an installed C interface.
function(calls_of_c prefix)
  file(GLOB pc ${prefix}/lib*/pkgconfig ${prefix}/lib/*/pkgconfig)
  get_filename_component(libraries ${pc} DIRECTORY)
  set(ENV{PKG_CONFIG_PATH} ${pc})
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
