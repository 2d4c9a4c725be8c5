#include "schema.hpp"

#include <catch2/catch.hpp>
#include "support/places.hpp"

#include <algorithm>
#include <fstream>
#include <stdexcept>

namespace saunter::test {
namespace {

using Json = nlohmann::ordered_json;

bool is_type(const Json& value, const std::string& type) {
  if (type == "null") return value.is_null();
  if (type == "boolean") return value.is_boolean();
  if (type == "string") return value.is_string();
  if (type == "integer") return value.is_number_integer();
  if (type == "number") return value.is_number();
  if (type == "array") return value.is_array();
  if (type == "object") return value.is_object();
  throw std::runtime_error("a schema's unknown type " + type);
}

bool is_one_of(const Json& value, const Json& types) {
  if (types.is_string()) return is_type(value, types);
  return std::any_of(types.begin(), types.end(), [&](const Json& type) { return is_type(value, type); });
}

std::string key_at(const std::string& path, const std::string& key) { return path.empty() ? key : path + "." + key; }

std::string object_against(const Json& value, const Json& schema, const std::string& path,
                           std::set<std::string>* seen) {
  for (const Json& key : schema.value("required", Json::array())) {
    if (!value.contains(key)) return path + ": has no " + key.dump();
  }
  const Json properties = schema.value("properties", Json::object());
  const Json others = schema.value("additionalProperties", Json(true));
  for (const auto& [key, one] : value.items()) {
    std::string wrong;
    if (properties.contains(key)) {
      if (seen != nullptr) seen->insert(key_at(path, key));
      wrong = against_schema(one, properties[key], key_at(path, key), seen);
    } else if (others.is_object()) {
      wrong = against_schema(one, others, key_at(path, key), seen);
    } else if (others == false) {
      wrong = key_at(path, key) + ": is not in the schema";
    }
    if (!wrong.empty()) return wrong;
  }
  return {};
}

}  // namespace

Json json_of(const Ran& ran) {
  INFO(ran.err);
  REQUIRE(!ran.out.empty());
  return Json::parse(ran.out);
}

std::string against_schema(const Json& value, const Json& schema, const std::string& path,
                           std::set<std::string>* seen) {
  static const std::set<std::string> known = {
      "$schema", "$comment", "title", "description", "type",     "properties", "required",
      "items",   "enum",     "const", "minItems",    "maxItems", "minimum",    "additionalProperties"};
  for (const auto& [word, meaning] : schema.items()) {
    if (!known.contains(word)) throw std::runtime_error("a schema's unknown word " + word);
  }
  const std::string found = path + ": found " + value.dump().substr(0, 60);
  if (schema.contains("type") && !is_one_of(value, schema["type"]))
    return found + ", expected " + schema["type"].dump();
  if (schema.contains("const") && value != schema["const"]) return found + ", expected " + schema["const"].dump();
  if (schema.contains("enum")) {
    const Json& words = schema["enum"];
    if (std::find(words.begin(), words.end(), value) == words.end()) return found + ", expected " + words.dump();
  }
  if (value.is_number() && schema.contains("minimum") && value < schema["minimum"]) return found + ", expected more";
  if (value.is_object()) return object_against(value, schema, path, seen);
  if (!value.is_array()) return {};
  if (value.size() < schema.value("minItems", std::size_t{0})) return found + ", expected more of them";
  if (value.size() > schema.value("maxItems", value.size())) return found + ", expected fewer";
  if (!schema.contains("items")) return {};
  for (const Json& one : value) {
    const std::string wrong = against_schema(one, schema["items"], path + "[]", seen);
    if (!wrong.empty()) return wrong;
  }
  return {};
}

Json schema_for(const std::string& command) {
  std::ifstream in(source_dir() + "/docs/schema/" + command + ".json");
  if (!in) throw std::runtime_error("docs/schema has no " + command + ".json");
  return Json::parse(in);
}

}  // namespace saunter::test
