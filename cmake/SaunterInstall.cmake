# cmake --install: the libraries that were built, their public headers, the program, and what find_package needs.
include(CMakePackageConfigHelpers)

set(saunter_config_dir ${CMAKE_INSTALL_LIBDIR}/cmake/saunter)
install(TARGETS saunter_core EXPORT saunter_core_targets FILE_SET HEADERS)
install(EXPORT saunter_core_targets NAMESPACE saunter:: DESTINATION ${saunter_config_dir})
if(TARGET saunter_tbb)
  install(TARGETS saunter_tbb EXPORT saunter_tbb_targets FILE_SET HEADERS)
  install(EXPORT saunter_tbb_targets NAMESPACE saunter:: DESTINATION ${saunter_config_dir})
endif()
if(TARGET saunter_io)
  foreach(component io draw)
    install(TARGETS saunter_${component} EXPORT saunter_${component}_targets FILE_SET HEADERS)
    install(EXPORT saunter_${component}_targets NAMESPACE saunter:: DESTINATION ${saunter_config_dir})
  endforeach()
  install(TARGETS saunter_program RUNTIME)
endif()

configure_package_config_file(${PROJECT_SOURCE_DIR}/cmake/saunter-config.cmake.in
  ${PROJECT_BINARY_DIR}/saunter-config.cmake INSTALL_DESTINATION ${saunter_config_dir})
write_basic_package_version_file(${PROJECT_BINARY_DIR}/saunter-config-version.cmake COMPATIBILITY SameMinorVersion)
install(FILES ${PROJECT_BINARY_DIR}/saunter-config.cmake ${PROJECT_BINARY_DIR}/saunter-config-version.cmake
  DESTINATION ${saunter_config_dir})
