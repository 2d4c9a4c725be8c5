/// @file
/// Holds JSON against a JSON Schema: as much of one as our schemas use; any other word of one is a failure.
#pragma once

#include <nlohmann/json.hpp>
#include <set>
#include <string>

namespace saunter::test {

/// What of a value is not as its schema says: "", or "runs[3].cost: found ..., expected ...".
/// @param seen  if given, the path of every key met is added: "runs[].cost"
[[nodiscard]] std::string against_schema(const nlohmann::json& value, const nlohmann::json& schema,
                                         const std::string& path = {}, std::set<std::string>* seen = nullptr);
/// The schema of a command's answer in docs/schema.
[[nodiscard]] nlohmann::json schema_for(const std::string& command);

}  // namespace saunter::test
