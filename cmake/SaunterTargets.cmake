# Warnings and settings every target of the project shares, and a helper that makes a library with its public headers.

add_library(saunter_settings INTERFACE)
target_compile_features(saunter_settings INTERFACE cxx_std_20)
if(MSVC)
  target_compile_options(saunter_settings INTERFACE /W4 /permissive- /utf-8 $<$<BOOL:${SAUNTER_WERROR}>:/WX>)
else()
  target_compile_options(saunter_settings INTERFACE
    -Wall -Wextra -Wpedantic -Wshadow -Wconversion -Wsign-conversion -Wold-style-cast -Wnon-virtual-dtor
    -Woverloaded-virtual -Wcast-align -Wdouble-promotion -Wformat=2 -Wimplicit-fallthrough
    $<$<CXX_COMPILER_ID:GNU>:-Wduplicated-cond -Wlogical-op>
    # g++ 12 takes "text" + string, optimised, for copies that overlap.
    $<$<AND:$<CXX_COMPILER_ID:GNU>,$<VERSION_LESS:$<CXX_COMPILER_VERSION>,13>>:-Wno-restrict>
    $<$<BOOL:${SAUNTER_WERROR}>:-Werror>)
endif()

# Sources a dozen at a time, where that was asked for.
function(saunter_jumbo target)
  if(SAUNTER_JUMBO)
    set_target_properties(${target} PROPERTIES UNITY_BUILD ON UNITY_BUILD_BATCH_SIZE 12)
    # Sources are then included as headers are; what only they see is still theirs alone.
    target_compile_options(${target} PRIVATE $<$<CXX_COMPILER_ID:GNU>:-Wno-subobject-linkage>)
  endif()
endfunction()

# saunter_library(NAME room-or-target, SOURCES ..., HEADERS ...): target saunter_NAME, alias saunter::NAME.
function(saunter_library name)
  cmake_parse_arguments(ARG "" "" "SOURCES;HEADERS" ${ARGN})
  add_library(saunter_${name} ${ARG_SOURCES})  # static, or shared where BUILD_SHARED_LIBS says so
  add_library(saunter::${name} ALIAS saunter_${name})
  set_target_properties(saunter_${name} PROPERTIES
    EXPORT_NAME ${name} VERIFY_INTERFACE_HEADER_SETS ON POSITION_INDEPENDENT_CODE ON CXX_EXTENSIONS OFF
    CXX_VISIBILITY_PRESET hidden VISIBILITY_INLINES_HIDDEN ON
    VERSION ${PROJECT_VERSION} SOVERSION ${PROJECT_VERSION_MAJOR}.${PROJECT_VERSION_MINOR})
  # g++ shows what public headers declare, by the attribute of their namespace. clang asks where a function was declared
  # last, which is in the source: it would hide every free function, so it shows all.
  if(BUILD_SHARED_LIBS AND CMAKE_CXX_COMPILER_ID MATCHES "Clang")
    set_target_properties(saunter_${name} PROPERTIES CXX_VISIBILITY_PRESET default)
  endif()
  if(SAUNTER_CHECKED)
    target_compile_definitions(saunter_${name} PUBLIC SAUNTER_CHECKED)
  endif()
  target_compile_features(saunter_${name} PUBLIC cxx_std_20)
  target_sources(saunter_${name} PUBLIC FILE_SET HEADERS BASE_DIRS include FILES ${ARG_HEADERS})
  # BUILD_INTERFACE: the settings are ours, users of an installed library never see them.
  target_link_libraries(saunter_${name} PRIVATE $<BUILD_INTERFACE:saunter_settings>)
  saunter_jumbo(saunter_${name})
endfunction()
