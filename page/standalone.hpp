/// @file
/// One file that shows an answer without a server.
#pragma once

#include <string>

namespace saunter::page {

/// A page with everything in it. @param data  a JSON object, as text: `scene`, `answer`, `replay` and `text`
[[nodiscard]] std::string standalone(const std::string& data);

}  // namespace saunter::page
