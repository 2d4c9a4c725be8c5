/// @file
/// The program's JSON. Holds it against a JSON Schema: as much of one as our schemas use; any other word of one is a
/// failure.
#pragma once

#include <nlohmann/json.hpp>
#include <set>
#include <string>

#include "run_program.hpp"

namespace saunter::test {

/// The object a run printed, which must be there.
[[nodiscard]] nlohmann::ordered_json json_of(const Ran& ran);
/// What of a value is not as its schema says: "", or "runs[3].cost: found ..., expected ...".
/// @param seen  if given, the path of every key met is added: "runs[].cost"
[[nodiscard]] std::string against_schema(const nlohmann::ordered_json& value, const nlohmann::ordered_json& schema,
                                         const std::string& path = {}, std::set<std::string>* seen = nullptr);
/// The schema of a command's answer in docs/schema.
[[nodiscard]] nlohmann::ordered_json schema_for(const std::string& command);

}  // namespace saunter::test
