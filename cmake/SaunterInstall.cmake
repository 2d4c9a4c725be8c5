# cmake --install: the libraries that were built, their public headers, the program, and what find_package needs.
include(CMakePackageConfigHelpers)

# Components as they are packaged: library (what programs run with), development, program, documentation.
set(saunter_config_dir ${CMAKE_INSTALL_LIBDIR}/cmake/saunter)
function(saunter_install name)
  install(TARGETS saunter_${name} EXPORT saunter_${name}_targets
    LIBRARY COMPONENT library NAMELINK_COMPONENT development
    ARCHIVE COMPONENT development
    FILE_SET HEADERS COMPONENT development)
  install(EXPORT saunter_${name}_targets NAMESPACE saunter:: DESTINATION ${saunter_config_dir} COMPONENT development)
endfunction()
saunter_install(core)
if(TARGET saunter_tbb)
  saunter_install(tbb)
endif()
if(TARGET saunter_io)
  saunter_install(io)
  saunter_install(draw)
  if(TARGET saunter_c)
    # The C interface needs no other part of Saunter: what it is made of is inside.
    saunter_install(c)
    install(FILES capi/python/saunter.py capi/lua/saunter.lua DESTINATION ${CMAKE_INSTALL_DATADIR}/saunter COMPONENT development)
  endif()
  install(TARGETS saunter_program RUNTIME COMPONENT program)
  install(DIRECTORY docs/schema demo DESTINATION ${CMAKE_INSTALL_DATADIR}/saunter COMPONENT program)
endif()
set(saunter_packages saunter libsaunter${PROJECT_VERSION_MAJOR}.${PROJECT_VERSION_MINOR} libsaunter-dev saunter-doc)
set(saunter_components program library development documentation)
set(saunter_doc_dir ${CMAKE_INSTALL_DATADIR}/doc/saunter-doc)
install(FILES README.md CHANGELOG.md LICENSE DESTINATION ${saunter_doc_dir} COMPONENT documentation)
install(DIRECTORY docs DESTINATION ${saunter_doc_dir} COMPONENT documentation PATTERN api EXCLUDE)
install(DIRECTORY examples DESTINATION ${saunter_doc_dir} COMPONENT documentation FILES_MATCHING PATTERN "*.cpp")
install(CODE "
  set(DOCUMENTS \"\$ENV{DESTDIR}\${CMAKE_INSTALL_PREFIX}/${saunter_doc_dir}\")
  set(HEADERS \"\$ENV{DESTDIR}\${CMAKE_INSTALL_PREFIX}/${CMAKE_INSTALL_INCLUDEDIR}\")
  include(\"${PROJECT_SOURCE_DIR}/cmake/InstallDocuments.cmake\")" COMPONENT documentation)
# Each package says what its licence is.
foreach(package component IN ZIP_LISTS saunter_packages saunter_components)
  install(FILES LICENSE RENAME copyright DESTINATION ${CMAKE_INSTALL_DATADIR}/doc/${package} COMPONENT ${component})
endforeach()
# The API reference, where scripts/api has made it.
install(DIRECTORY build/api/html DESTINATION ${saunter_doc_dir}/api COMPONENT documentation OPTIONAL)

# For builds that ask pkg-config: one file for each library. They find the rest from where they lie, wherever that is.
# A library where the system's loader does not look is found all the same.
set(pc_rpath "")
if(NOT CMAKE_INSTALL_PREFIX STREQUAL "/usr")
  set(pc_rpath "-Wl,-rpath,\${libdir} ")
endif()
file(RELATIVE_PATH pc_up /${CMAKE_INSTALL_LIBDIR}/pkgconfig /)
foreach(component core io draw c)
  if(TARGET saunter_${component})
    set(pc_name saunter-${component})
    set(pc_library saunter_${component})
    set(pc_requires "")
    set(pc_private "")
    if(component STREQUAL core)
      set(pc_requires "eigen3")
    elseif(component STREQUAL c)  # all of it is inside
      set(pc_name saunter)
      set(pc_library saunter)
    else()
      set(pc_requires "saunter-core")
    endif()
    if(component STREQUAL io)
      set(pc_private "libpng libutf8proc tomlplusplus")
    elseif(component STREQUAL draw)
      set(pc_private "cairo libutf8proc")
    endif()
    if(NOT BUILD_SHARED_LIBS AND pc_private)  # a static library brings nothing along
      set(pc_requires "${pc_requires} ${pc_private}")
      set(pc_private "")
    endif()
    configure_file(${PROJECT_SOURCE_DIR}/cmake/saunter.pc.in ${PROJECT_BINARY_DIR}/${pc_name}.pc @ONLY)
    install(FILES ${PROJECT_BINARY_DIR}/${pc_name}.pc DESTINATION ${CMAKE_INSTALL_LIBDIR}/pkgconfig COMPONENT development)
  endif()
endforeach()

# A shared C interface stands on the other libraries; a static build has them inside.
set(saunter_c_stands_on_io FALSE)
if(BUILD_SHARED_LIBS)
  set(saunter_c_stands_on_io TRUE)
endif()
configure_package_config_file(${PROJECT_SOURCE_DIR}/cmake/saunter-config.cmake.in
  ${PROJECT_BINARY_DIR}/saunter-config.cmake INSTALL_DESTINATION ${saunter_config_dir})
write_basic_package_version_file(${PROJECT_BINARY_DIR}/saunter-config-version.cmake COMPATIBILITY SameMinorVersion)
install(FILES ${PROJECT_BINARY_DIR}/saunter-config.cmake ${PROJECT_BINARY_DIR}/saunter-config-version.cmake
  DESTINATION ${saunter_config_dir} COMPONENT development)

# The manual page and completion for shells, told by the program itself.
if(TARGET saunter_program AND NOT CMAKE_CROSSCOMPILING)
  set(manual_dir ${PROJECT_BINARY_DIR}/manual)
  file(MAKE_DIRECTORY ${manual_dir})
  set(manual_files "")
  foreach(form_and_file IN ITEMS "man saunter.1" "bash saunter" "zsh _saunter" "fish saunter.fish")
    string(REPLACE " " ";" pair ${form_and_file})
    list(GET pair 0 form)
    list(GET pair 1 file)
    add_custom_command(OUTPUT ${manual_dir}/${file} COMMAND saunter_program manual ${form} > ${manual_dir}/${file}
      DEPENDS saunter_program VERBATIM)
    list(APPEND manual_files ${manual_dir}/${file})
  endforeach()
  add_custom_target(saunter_manual ALL DEPENDS ${manual_files})
  install(FILES ${manual_dir}/saunter.1 DESTINATION ${CMAKE_INSTALL_MANDIR}/man1 COMPONENT program)
  install(FILES ${manual_dir}/saunter DESTINATION ${CMAKE_INSTALL_DATADIR}/bash-completion/completions COMPONENT program)
  install(FILES ${manual_dir}/_saunter DESTINATION ${CMAKE_INSTALL_DATADIR}/zsh/site-functions COMPONENT program)
  install(FILES ${manual_dir}/saunter.fish DESTINATION ${CMAKE_INSTALL_DATADIR}/fish/vendor_completions.d COMPONENT program)
endif()
