#include "saunter/version.hpp"

#define SAUNTER_TEXT_OF(number) #number
#define SAUNTER_AS_TEXT(number) SAUNTER_TEXT_OF(number)

namespace saunter::inline v0_2 {

std::string_view version() {
  return SAUNTER_AS_TEXT(SAUNTER_VERSION_MAJOR) "." SAUNTER_AS_TEXT(SAUNTER_VERSION_MINOR) "." SAUNTER_AS_TEXT(
      SAUNTER_VERSION_PATCH);
}

}  // namespace saunter::inline v0_2
