# Builds the fingerprint program with both compilers, unoptimised and optimised; all four must print the same.
file(GLOB_RECURSE sources ${SOURCE}/core/src/*.cpp)
list(FILTER sources EXCLUDE REGEX "(frame|follow)\\.cpp$")  # floating point: not part of any answer a search gives
file(MAKE_DIRECTORY ${WORK})
# In one unit: headers are read once for all.
set(unit "")
foreach(source ${sources} ${SOURCE}/tests/fingerprint/fingerprint.cpp)
  string(APPEND unit "#include \"${source}\"\n")
endforeach()
file(WRITE ${WORK}/unit.cpp "${unit}")
set(prints)
foreach(level -O0 -O2)
  set(words -std=c++20 ${level} -fno-exceptions -fno-rtti -I${SOURCE}/core/include -I${SOURCE}/tests -isystem ${EIGEN}
    ${WORK}/unit.cpp)
  # Two commands of one call run side by side.
  execute_process(
    COMMAND g++ ${words} -o ${WORK}/fingerprint_g++${level}
    COMMAND clang++-16 ${words} -o ${WORK}/fingerprint_clang++-16${level}
    RESULTS_VARIABLE results ERROR_VARIABLE errors)
  if(NOT results STREQUAL "0;0")
    message(FATAL_ERROR "${level} does not build: ${errors}")
  endif()
  foreach(compiler g++ clang++-16)
    execute_process(COMMAND ${WORK}/fingerprint_${compiler}${level} OUTPUT_VARIABLE print RESULT_VARIABLE result)
    if(NOT result EQUAL 0)
      message(FATAL_ERROR "${compiler} ${level} does not run: ${result}")
    endif()
    message("${compiler} ${level}: ${print}")
    list(APPEND prints "${print}")
  endforeach()
endforeach()
list(REMOVE_DUPLICATES prints)
list(LENGTH prints kinds)
if(NOT kinds EQUAL 1)
  message(FATAL_ERROR "builds differ")
endif()
