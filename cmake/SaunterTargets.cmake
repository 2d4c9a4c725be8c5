# Warnings and settings every target of the project shares, and a helper that makes a library with its public headers.

add_library(saunter_settings INTERFACE)
target_compile_features(saunter_settings INTERFACE cxx_std_20)
if(NOT SAUNTER_WARNINGS)
elseif(MSVC)
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

# What makes the same faster, where it is installed: a compiler cache that knows code by what it says, so that another
# checkout finds what this one has built, and a linker.
if(SAUNTER_QUICK)
  find_program(saunter_cache ccache)
  if(saunter_cache)
    set(cached ${CMAKE_COMMAND} -E env CCACHE_BASEDIR=${PROJECT_SOURCE_DIR} CCACHE_NOHASHDIR=1
      CCACHE_SLOPPINESS=pch_defines,time_macros,include_file_mtime,include_file_ctime ${saunter_cache})
    foreach(language C CXX)
      set(CMAKE_${language}_COMPILER_LAUNCHER ${cached})
    endforeach()
  endif()
  find_program(saunter_linker mold)
  if(saunter_linker)
    add_link_options(-fuse-ld=mold)
  endif()
  # g++ spends a seventh of its time giving memory back that it soon wants again.
  add_compile_options($<$<COMPILE_LANG_AND_ID:CXX,GNU>:--param=ggc-min-heapsize=1000000>)
endif()

# saunter_units(TARGET SOURCES...): compiles the sources of one folder as one unit, at most ten together, so that what they
# include is read once. Units name sources by their way from FROM, and so look the same in every checkout.
function(saunter_units target)
  cmake_parse_arguments(ARG "" "FROM" "" ${ARGN})
  if(NOT ARG_FROM)
    set(ARG_FROM ${CMAKE_CURRENT_SOURCE_DIR})
  endif()
  if(NOT SAUNTER_JUMBO)
    foreach(source IN LISTS ARG_UNPARSED_ARGUMENTS)
      target_sources(${target} PRIVATE ${ARG_FROM}/${source})
    endforeach()
    return()
  endif()
  set(folders "")
  foreach(source IN LISTS ARG_UNPARSED_ARGUMENTS)
    get_filename_component(folder ${source} DIRECTORY)
    string(REGEX REPLACE "^(core/)?src/?" "" folder "${folder}")  # the room
    string(REGEX REPLACE "[^a-z]+" "_" folder "sources/${folder}")
    list(APPEND folders ${folder})
    list(APPEND sources_${folder} ${source})
  endforeach()
  list(REMOVE_DUPLICATES folders)
  foreach(folder IN LISTS folders)
    list(LENGTH sources_${folder} left)
    math(EXPR units "(${left} + 9) / 10")
    foreach(unit RANGE 1 ${units})
      math(EXPR from "(${unit} - 1) * ${left} / ${units}")
      math(EXPR count "${unit} * ${left} / ${units} - ${from}")
      list(SUBLIST sources_${folder} ${from} ${count} together)
      list(TRANSFORM together REPLACE "(.+)" "#include \"\\1\"\n" OUTPUT_VARIABLE text)
      list(JOIN text "" text)
      set(file ${CMAKE_CURRENT_BINARY_DIR}/units_of_${target}/${folder}${unit}.cpp)
      file(CONFIGURE OUTPUT ${file} CONTENT "${text}" @ONLY)
      target_sources(${target} PRIVATE ${file})
    endforeach()
  endforeach()
  target_include_directories(${target} PRIVATE ${ARG_FROM})
  # Sources are then included as headers are; what only they see is still theirs alone.
  target_compile_options(${target} PRIVATE $<$<CXX_COMPILER_ID:GNU>:-Wno-subobject-linkage>)
endfunction()

# saunter_library(NAME room-or-target, SOURCES ..., HEADERS ...): target saunter_NAME, alias saunter::NAME.
function(saunter_library name)
  cmake_parse_arguments(ARG "" "" "SOURCES;HEADERS" ${ARGN})
  add_library(saunter_${name})  # static, or shared where BUILD_SHARED_LIBS says so
  saunter_units(saunter_${name} ${ARG_SOURCES})
  set_target_properties(saunter_${name} PROPERTIES SAUNTER_SOURCES "${ARG_SOURCES}")
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
endfunction()
