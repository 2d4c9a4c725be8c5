# cpack -G DEB: Debian packages of what cmake --install installs, one for each component. scripts/package does it all.
set(CPACK_GENERATOR DEB)
set(CPACK_PACKAGE_NAME saunter)
set(CPACK_PACKAGE_VENDOR "Saunter")
set(CPACK_PACKAGE_CONTACT "The Saunter developers <saunter@example.org>")
set(CPACK_RESOURCE_FILE_LICENSE ${PROJECT_SOURCE_DIR}/LICENSE)
set(CPACK_PACKAGING_INSTALL_PREFIX /usr)
set(CPACK_STRIP_FILES ON)
set(CPACK_COMPONENTS_ALL library development program documentation)
set(CPACK_COMPONENTS_GROUPING IGNORE)

set(CPACK_DEB_COMPONENT_INSTALL ON)
set(CPACK_DEBIAN_FILE_NAME DEB-DEFAULT)
set(CPACK_DEBIAN_PACKAGE_SECTION libs)
set(version ${PROJECT_VERSION})
set(soversion ${PROJECT_VERSION_MAJOR}.${PROJECT_VERSION_MINOR})

set(CPACK_DEBIAN_LIBRARY_PACKAGE_NAME libsaunter${soversion})
set(CPACK_COMPONENT_LIBRARY_DESCRIPTION "This is the library behind its C interface.")
set(CPACK_DEBIAN_LIBRARY_PACKAGE_SHLIBDEPS ON)
# Programs linked against it need this version or a later one with the same name.
set(CPACK_DEBIAN_LIBRARY_PACKAGE_GENERATE_SHLIBS ON)
set(CPACK_DEBIAN_LIBRARY_PACKAGE_GENERATE_SHLIBS_POLICY ">=")

set(CPACK_DEBIAN_DEVELOPMENT_PACKAGE_NAME libsaunter-dev)
set(CPACK_DEBIAN_DEVELOPMENT_PACKAGE_SECTION libdevel)
set(CPACK_COMPONENT_DEVELOPMENT_DESCRIPTION "This has what programs are built with: C++20 and C headers, static libraries, files for
 CMake and pkg-config, modules for Python and LuaJIT.")
set(CPACK_DEBIAN_DEVELOPMENT_PACKAGE_DEPENDS "libsaunter${soversion} (= ${version}), libeigen3-dev (>= 3.4)")
# What the components io and draw are linked with; the core and the C interface need none of it.
set(CPACK_DEBIAN_DEVELOPMENT_PACKAGE_RECOMMENDS
  "pkg-config, libcairo2-dev, libpng-dev, libtomlplusplus-dev, libutf8proc-dev, nlohmann-json3-dev")
set(CPACK_DEBIAN_DEVELOPMENT_PACKAGE_SUGGESTS "saunter-doc, python3, luajit")

set(CPACK_DEBIAN_PROGRAM_PACKAGE_NAME saunter)
set(CPACK_DEBIAN_PROGRAM_PACKAGE_SECTION devel)
set(CPACK_COMPONENT_PROGRAM_DESCRIPTION "This is the program: it asks about map files, draws the answers, checks levels, makes mazes,
 caves and rooms, and serves a page for the browser.")
set(CPACK_DEBIAN_PROGRAM_PACKAGE_SHLIBDEPS ON)
set(CPACK_DEBIAN_PROGRAM_PACKAGE_RECOMMENDS fonts-dejavu-core)

set(CPACK_DEBIAN_DOCUMENTATION_PACKAGE_NAME saunter-doc)
set(CPACK_DEBIAN_DOCUMENTATION_PACKAGE_SECTION doc)
set(CPACK_DEBIAN_DOCUMENTATION_PACKAGE_ARCHITECTURE all)
set(CPACK_COMPONENT_DOCUMENTATION_DESCRIPTION "This is the documentation: guides, a page for each command, examples, the API reference.")
include(CPack)
