# Installs the build, builds the stranger's project against it, runs it.
function(run)
  execute_process(COMMAND ${ARGV} RESULT_VARIABLE result OUTPUT_VARIABLE output ERROR_VARIABLE output)
  if(NOT result EQUAL 0)
    message(FATAL_ERROR "failed: ${ARGV}\n${output}")
  endif()
  set(output "${output}" PARENT_SCOPE)
endfunction()

file(REMOVE_RECURSE ${WORK})
run(${CMAKE_COMMAND} --install ${BUILD} --prefix ${WORK}/prefix)
run(${CMAKE_COMMAND} -S ${SOURCE} -B ${WORK}/build -G Ninja -DCMAKE_PREFIX_PATH=${WORK}/prefix
  -DCMAKE_CXX_COMPILER=${COMPILER} "-DCMAKE_CXX_FLAGS=${FLAGS}")
run(${CMAKE_COMMAND} --build ${WORK}/build)
run(${WORK}/build/beach)
set(found "${output}")

# The same by pkg-config.
set(ENV{PKG_CONFIG_PATH} ${WORK}/prefix/lib/pkgconfig:${WORK}/prefix/lib64/pkgconfig)
run(sh -c "${COMPILER} -std=c++20 ${FLAGS} ${SOURCE}/main.cpp $(pkg-config --cflags --libs saunter-core) -o ${WORK}/by_pkg_config")
run(sh -c "LD_LIBRARY_PATH=${WORK}/prefix/lib ${WORK}/by_pkg_config")
if(NOT output STREQUAL found)
  message(FATAL_ERROR "by pkg-config: ${output}")
endif()

# The C interface, from C99: the tests' own calls against what was installed, and the example of the documents.
set(ENV{LD_LIBRARY_PATH} ${WORK}/prefix/lib:${WORK}/prefix/lib64)
run(sh -c "cc -std=c99 -pedantic -Wall -Wextra -Werror ${FLAGS} ${SOURCE}/../capi/calls.c $(pkg-config --cflags --libs saunter) -o ${WORK}/calls")
run(${WORK}/calls ${SOURCE}/../../demo)
file(READ ${SOURCE}/../../docs/from-c.md page)
string(REGEX MATCH "```c\n(.*)\n```\n\n```\n\\$ cc" found_code "${page}")
file(WRITE ${WORK}/way.c "${CMAKE_MATCH_1}\n")
run(sh -c "cc -std=c99 -pedantic -Wall -Wextra -Werror ${FLAGS} ${WORK}/way.c $(pkg-config --cflags --libs saunter) -o ${WORK}/way")
run(sh -c "cd ${SOURCE}/../.. && ${WORK}/way")
if(NOT output STREQUAL "cost 60.38, 49 cells\n")
  message(FATAL_ERROR "docs/from-c.md: ${output}")
endif()
unset(ENV{LD_LIBRARY_PATH})

# What is asked for and not there is told by name.
file(MAKE_DIRECTORY ${WORK}/asks)
file(WRITE ${WORK}/asks/CMakeLists.txt "cmake_minimum_required(VERSION 3.25)\nproject(asks LANGUAGES C CXX)\n"
  "find_package(saunter 0.2 REQUIRED COMPONENTS core io draw)\nfind_package(saunter 0.2 REQUIRED COMPONENTS lighthouse)\n")
execute_process(COMMAND ${CMAKE_COMMAND} -S ${WORK}/asks -B ${WORK}/asks_build -G Ninja -DCMAKE_PREFIX_PATH=${WORK}/prefix
  -DCMAKE_CXX_COMPILER=${COMPILER} RESULT_VARIABLE result OUTPUT_VARIABLE output ERROR_VARIABLE output)
if(result EQUAL 0 OR NOT output MATCHES "lighthouse" OR output MATCHES "component (io|draw)")
  message(FATAL_ERROR "a missing component: ${output}")
endif()
message("${found}")
