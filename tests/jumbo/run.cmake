# Builds every library and the program with all sources of a target in one unit: names that only their own file keeps
# apart would meet here.
file(MAKE_DIRECTORY ${WORK})
execute_process(
  COMMAND ${CMAKE_COMMAND} -S ${SOURCE} -B ${WORK} -G Ninja -DCMAKE_BUILD_TYPE=Debug -DCMAKE_CXX_COMPILER=${COMPILER}
    -DSAUNTER_DEVELOPER=OFF -DSAUNTER_PRECOMPILE=OFF -DSAUNTER_WERROR=ON
    # Files are included here as headers are; what only they see is still theirs alone.
    "-DCMAKE_CXX_FLAGS=-O0 -g0 -Wno-subobject-linkage"
    -DCMAKE_UNITY_BUILD=ON -DCMAKE_UNITY_BUILD_BATCH_SIZE=0
  RESULT_VARIABLE failed OUTPUT_QUIET)
if(failed)
  message(FATAL_ERROR "the jumbo build could not be configured")
endif()
execute_process(COMMAND ${CMAKE_COMMAND} --build ${WORK} --target saunter_program RESULT_VARIABLE failed)
if(failed)
  message(FATAL_ERROR "all sources of a target in one unit do not compile")
endif()
execute_process(COMMAND ${WORK}/app/saunter --version OUTPUT_VARIABLE version)
message("jumbo: ${version}")
