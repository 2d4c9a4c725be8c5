#include "keys.hpp"

#include <fmt/format.h>

#include <array>
#include <stdexcept>

#include "saunter/check/inspect.hpp"
#include "saunter/live/standing_route.hpp"
#include "saunter/place/fit.hpp"
#include "saunter/search/verdict.hpp"
#include "saunter/turn/acting.hpp"
#include "saunter/turn/turn_reach.hpp"
#include "saunter/version.hpp"
#include "saunter/walk/walk.hpp"

namespace saunter::app {
namespace {

constexpr std::string_view or_null = " or null";

/// The names of all values from the first to the last.
template <typename Value>
void append_names(Json& list, Value first, Value last, std::string_view (*name)(Value)) {
  for (int i = static_cast<int>(first); i <= static_cast<int>(last); ++i) list.push_back(name(static_cast<Value>(i)));
}

/// The words a type's values are one of; empty: it is no such type.
Json words_of(std::string_view type) {
  Json words = Json::array();
  if (type == "tiling") words = Json::array({"square", "hex", "triangle"});
  if (type == "sight-reason") words = Json::array({"hidden", "out-of-range"});
  if (type == "walk-end" || type == "walk-reason") append_names(words, WalkEnd::arrived, WalkEnd::steps, walk_end_name);
  if (type == "turn-answer") {
    append_names<TurnAnswer>(words, TurnAnswer::reached, TurnAnswer::start_unusable, answer_name);
  }
  if (type == "act-answer") append_names<ActAnswer>(words, ActAnswer::can_act, ActAnswer::out_of_range, answer_name);
  if (type == "fit-fault") append_names<FitFault>(words, FitFault::off_map, FitFault::cuts_off, fault_name);
  if (type == "path-fault") append_names<PathFault>(words, PathFault::off_map, PathFault::threat, fault_name);
  if (type == "standing") append_names(words, Standing::holds, Standing::broken, standing_name);
  // An end that can't be used, and way points that no way joins, are told by a search's reasons.
  if (type == "reason" || type == "walk-reason" || type == "path-fault") {
    append_names(words, Reason::start_off_map, Reason::cost_overflow, reason_name);
  }
  return words;
}

/// The kinds of values that are no words, each with what it is to a person.
struct ValueKind {
  std::string_view type;
  std::string_view told;
  Json (*schema)();
};

Json list_of(Json items, std::size_t count = 0) {
  Json schema = {{"type", "array"}, {"items", std::move(items)}};
  if (count > 0) schema.update({{"minItems", count}, {"maxItems", count}});
  return schema;
}
Json whole() { return {{"type", "integer"}}; }
Json positive() { return {{"type", "integer"}, {"minimum", 0}}; }
Json number() { return {{"type", "number"}, {"minimum", 0}}; }

constexpr std::array value_kinds = {
    ValueKind{"flag", "true or false",
              [] {
                return Json{{"type", "boolean"}};
              }},
    ValueKind{"text", "text",
              [] {
                return Json{{"type", "string"}};
              }},
    ValueKind{"count", "whole number from 0", positive},
    ValueKind{"number", "number from 0", number},
    ValueKind{"cost", "number from 0, in steps, at most two decimals", number},
    ValueKind{"pair", "[cols,rows]", [] { return list_of(positive(), 2); }},
    ValueKind{"cell", "[col,row]", [] { return list_of(whole(), 2); }},
    ValueKind{"cells", "list of [col,row]", [] { return list_of(list_of(whole(), 2)); }},
    ValueKind{"reached", "[col,row,cost]", [] { return list_of(number(), 3); }},
    ValueKind{"box", "[col,row,col,row]", [] { return list_of(positive(), 4); }},
    ValueKind{"numbers", "list of whole numbers, null for none",
              [] {
                return list_of({{"type", Json::array({"integer", "null"})}});
              }},
    ValueKind{"counts", "object, its values whole numbers from 0",
              [] {
                return Json{{"type", "object"}, {"additionalProperties", positive()}};
              }},
    ValueKind{"object", "object",
              [] {
                return Json{{"type", "object"},
                            {"additionalProperties", false},
                            {"required", Json::array()},
                            {"properties", Json::object()}};
              }},
};

const ValueKind* kind_of(std::string_view type) {
  for (const ValueKind& kind : value_kinds) {
    if (kind.type == type) return &kind;
  }
  return nullptr;
}

std::string_view without_null(std::string_view type) {
  return type.ends_with(or_null) ? type.substr(0, type.size() - or_null.size()) : type;
}

/// A key's own word, and whether it names a list.
struct KeyName {
  std::string word;
  bool list = false;
};
KeyName name_of(std::string_view path) {
  const bool list = path.ends_with("[]");
  return {std::string(list ? path.substr(0, path.size() - 2) : path), list};
}

/// "list of [col,row], or null"
std::string told(const Key& key) {
  const std::string_view type = without_null(key.type);
  const ValueKind* const kind = kind_of(type);
  std::string text;
  if (kind != nullptr) {
    text = kind->told;
  } else {
    for (const Json& word : words_of(type)) text += (text.empty() ? "" : "|") + word.get<std::string>();
  }
  if (name_of(key.path).list) text = "list, each " + text;
  return text + (type == key.type ? "" : ", or null");
}

/// The object a path's last word is a key of, and that word.
std::pair<Json*, KeyName> place_of(std::string_view path, Json& schema) {
  Json* object = &schema;
  for (;;) {
    const std::size_t dot = path.find('.');
    const KeyName name = name_of(path.substr(0, dot));
    if (dot == std::string_view::npos) return {object, name};
    Json& property = object->at("properties").at(name.word);
    object = name.list ? &property.at("items") : &property;
    path.remove_prefix(dot + 1);
  }
}

/// What a type's values are. Throws std::out_of_range for a word that is no type.
Json type_schema(std::string_view type) {
  if (const ValueKind* const kind = kind_of(type); kind != nullptr) return kind->schema();
  Json words = words_of(type);
  if (words.empty()) throw std::out_of_range("no type of a key: " + std::string(type));
  return {{"enum", std::move(words)}};
}

void allow_null(Json& schema) {
  if (schema.contains("enum")) {
    schema["enum"].push_back(nullptr);
  } else {
    schema["type"] = Json::array({schema["type"], "null"});
  }
}

/// The JSON Schema of a command's object.
Json schema_of(const CommandKeys& command) {
  Json schema = {{"$schema", "https://json-schema.org/draft/2020-12/schema"},
                 {"title", fmt::format("saunter {} --json", command.command)},
                 {"description", fmt::format("Version {}.{}.", SAUNTER_VERSION_MAJOR, SAUNTER_VERSION_MINOR)},
                 {"type", "object"},
                 {"additionalProperties", false},
                 {"required", Json::array({"command"})},
                 {"properties", {{"command", {{"const", command.command}}}}}};
  for (const Key& key : command.keys) {
    const auto [object, name] = place_of(key.path, schema);
    const std::string_view type = without_null(key.type);
    Json value = type_schema(type);
    if (name.list) value = list_of(std::move(value));
    if (type != key.type) allow_null(value);
    value["description"] = key.meaning;
    if (!key.with.empty()) value["$comment"] = key.with;
    object->at("properties")[name.word] = std::move(value);
    if (key.with.empty()) object->at("required").push_back(name.word);
  }
  return schema;
}

class KeysCommand final : public Command {
 public:
  KeysCommand()
      : Command("keys", "the keys of a command's --json, each with its type and meaning", "keys route",
                Takes::nothing) {}

  void add_words(Words& words) override {
    std::vector<std::pair<std::string, const CommandKeys*>> known;
    for (const CommandKeys& one : key_table()) known.emplace_back(one.command, &one);
    words.choice("COMMAND", of_, std::move(known), "the command whose answer is asked about").required();
    words.flag("--schema", schema_, "as a JSON Schema");
    words.exclude({"--schema"}, {"--json"});
  }

  Answer answer() override {
    Answer answer;
    answer.text = schema_ ? schema_of(*of_).dump(2) + "\n" : table(*of_);
    Json keys = Json::array();
    for (const Key& key : of_->keys) {
      keys.push_back({{"path", key.path}, {"type", told(key)}, {"meaning", key.meaning}, {"with", key.with}});
    }
    answer.json = {{"command", "keys"}, {"of", of_->command}, {"keys", std::move(keys)}};
    return answer;
  }

 private:
  static std::string table(const CommandKeys& command) {
    std::string text =
        fmt::format("saunter {0} --json prints one object. [] stands for each entry of a list.\n\n{1:<24} \"{0}\"\n",
                    command.command, "command");
    for (const Key& key : command.keys) {
      const std::string with = key.with.empty() ? "" : fmt::format(" ({})", key.with);
      text += fmt::format("{:<24} {}\n    {}{}\n", key.path, told(key), key.meaning, with);
    }
    return text;
  }

  const CommandKeys* of_ = nullptr;
  bool schema_ = false;
};

}  // namespace

std::unique_ptr<Command> make_keys() { return std::make_unique<KeysCommand>(); }

}  // namespace saunter::app
