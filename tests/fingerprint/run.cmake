# Builds the fingerprint program with both compilers, unoptimised and optimised; all four must print the same.
file(GLOB sources ${SOURCE}/core/src/ground/*.cpp ${SOURCE}/core/src/search/*.cpp ${SOURCE}/core/src/grid/*.cpp)
list(FILTER sources EXCLUDE REGEX "(frame|follow)\\.cpp$")  # floating point: not part of any answer a search gives
file(MAKE_DIRECTORY ${WORK})
set(prints)
foreach(compiler g++ clang++-16)
  foreach(level -O0 -O2)
    set(program ${WORK}/fingerprint_${compiler}${level})
    execute_process(
      COMMAND ${compiler} -std=c++20 ${level} -fno-exceptions -fno-rtti -I${SOURCE}/core/include -I${SOURCE}/tests
        -isystem ${EIGEN} ${SOURCE}/tests/fingerprint/fingerprint.cpp ${sources} -o ${program}
      RESULT_VARIABLE result ERROR_VARIABLE errors)
    if(NOT result EQUAL 0)
      message(FATAL_ERROR "${compiler} ${level} does not build: ${errors}")
    endif()
    execute_process(COMMAND ${program} OUTPUT_VARIABLE print RESULT_VARIABLE result)
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
