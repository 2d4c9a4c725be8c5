#include <fmt/format.h>

#include <algorithm>

#include "command_table.hpp"
#include "saunter/version.hpp"

namespace saunter::app {
namespace {

enum class Form : std::uint8_t { man, bash, zsh, fish };

/// A text with something put before each of some characters.
std::string escaped(const std::string& text, std::string_view characters, const std::string& with) {
  std::string out;
  for (const char c : text) {
    if (characters.find(c) != std::string_view::npos) out += with;
    out += c;
  }
  return out;
}

std::string joined(const Json& list, const char* between) {
  std::string text;
  for (const Json& one : list) text += (text.empty() ? "" : between) + one.get<std::string>();
  return text;
}

std::string text(const Json& object, const char* key) { return object[key].get<std::string>(); }
bool is_option(const Json& option) { return text(option, "name").starts_with('-'); }
bool takes_value(const Json& option) { return !text(option, "takes").empty(); }

/// Text as roff has it: backslashes and hyphens are its own, and so is a dot or an apostrophe that begins a line.
std::string roff(const std::string& words) {
  std::string out = escaped(words, "\\-", "\\");
  if (out.starts_with('.') || out.starts_with('\'')) out.insert(0, "\\&");
  return out;
}

std::string man_option(const Json& option) {
  std::string line = ".TP\n\\fB" + roff(text(option, "name")) + "\\fR";
  if (takes_value(option) && is_option(option)) line += " \\fI" + roff(text(option, "takes")) + "\\fR";
  if (option["several"]) line += " ...";
  return line + "\n" + roff(text(option, "help")) + "\n";
}

std::string man_page(const Json& table) {
  std::string page = fmt::format(
      ".TH SAUNTER 1 \"\" \"saunter {0}\"\n.SH NAME\nsaunter \\- where a unit can go, what it costs, and why not\n"
      ".SH SYNOPSIS\n\\fBsaunter\\fR \\fICOMMAND\\fR \\fISCENARIO\\fR [\\fIoptions\\fR]\n"
      ".SH DESCRIPTION\nAnswers questions about movement on a map of squares, hexes or triangles: routes, reach, "
      "fields, regions,\nsight, danger, placing.\n"
      "\\fISCENARIO\\fR is a TOML file; \\- reads it from standard input.\n.SH COMMANDS\n",
      version());
  for (const Json& command : table) {
    page += ".SS " + text(command, "name") + "\n" + roff(text(command, "summary")) + ".\n";
    for (const Json& option : command["options"]) page += man_option(option);
    page += ".PP\nExample:\n.PP\n.RS\nsaunter " + roff(text(command, "example")) + "\n.RE\n";
  }
  return page +
         ".SH EXIT STATUS\n.TP\n0\nyes: found, or simply told\n.TP\n1\nanswered no; the answer says why and where\n"
         ".TP\n2\nbad input or usage: one line on standard error\n";
}

/// "route --from"|"route --to"
std::string bash_cases(const Json& command, bool files) {
  std::string cases;
  for (const Json& option : command["options"]) {
    if (!is_option(option) || !takes_value(option) || !option["choices"].empty() || option["file"] != files) continue;
    cases += fmt::format("{}\"{} {}\"", cases.empty() ? "" : "|", text(command, "name"), text(option, "name"));
  }
  return cases;
}

std::string bash_script(const Json& table) {
  std::string names;
  std::string values;
  std::string words;
  for (const Json& command : table) {
    const std::string name = text(command, "name");
    names += (names.empty() ? "" : " ") + name;
    std::string options;
    for (const Json& option : command["options"]) {
      const Json& choices = option["choices"];
      if (!is_option(option)) {  // a word of its own, such as a kind
        if (!choices.empty()) options += (options.empty() ? "" : " ") + joined(choices, " ");
        continue;
      }
      options += (options.empty() ? "" : " ") + text(option, "name");
      if (choices.empty()) continue;
      values += fmt::format("    \"{} {}\") COMPREPLY=($(compgen -W \"{}\" -- \"$current\")); return ;;\n", name,
                            text(option, "name"), joined(choices, " "));
    }
    const std::string files = bash_cases(command, true);
    const std::string free = bash_cases(command, false);
    if (!files.empty()) values += fmt::format("    {}) COMPREPLY=($(compgen -f -- \"$current\")); return ;;\n", files);
    if (!free.empty()) values += fmt::format("    {}) return ;;\n", free);
    words += fmt::format("    {}) words=\"{}\" ;;\n", name, options);
  }
  return fmt::format(
      "# Completion of saunter's words for bash.\n_saunter() {{\n"
      "  local current=${{COMP_WORDS[COMP_CWORD]}} before=${{COMP_WORDS[COMP_CWORD-1]}} words=\"\"\n  COMPREPLY=()\n"
      "  if [ \"$COMP_CWORD\" -eq 1 ]; then\n    COMPREPLY=($(compgen -W \"{}\" -- \"$current\"))\n    return\n  fi\n"
      "  case \"${{COMP_WORDS[1]}} $before\" in\n{}  esac\n  case \"${{COMP_WORDS[1]}}\" in\n{}  esac\n"
      "  COMPREPLY=($(compgen -W \"$words\" -- \"$current\"))\n"
      "  case \"$current\" in -*) ;; *) COMPREPLY+=($(compgen -f -- \"$current\")) ;; esac\n}}\n"
      "complete -o filenames -F _saunter saunter\n",
      names, values, words);
}

std::string zsh_option(const Json& option) {
  std::string help;  // within single quotes
  for (const char c : escaped(text(option, "help"), "\\[]:", "\\")) help += c == '\'' ? "'\\''" : std::string(1, c);
  const Json& choices = option["choices"];
  const std::string values = !choices.empty() ? "(" + joined(choices, " ") + ")" : option["file"] ? "_files" : " ";
  if (!is_option(option)) return fmt::format("'*:{}:{}'", text(option, "name"), values);
  const std::string value = takes_value(option) ? ":" + escaped(text(option, "takes"), ":", "\\") + ":" + values : "";
  return fmt::format("'{}{}[{}]{}'", option["several"] ? "*" : "", text(option, "name"), help, value);
}

std::string zsh_script(const Json& table) {
  std::string names;
  std::string cases;
  for (const Json& command : table) {
    const std::string name = text(command, "name");
    names += fmt::format("    '{}:{}'\n", name, escaped(text(command, "summary"), ":", "\\"));
    cases += fmt::format("    {})\n      _arguments", name);
    for (const Json& option : command["options"]) cases += " \\\n        " + zsh_option(option);
    cases += "\n      ;;\n";
  }
  return fmt::format(
      "#compdef saunter\n# Completion of saunter's words for zsh.\nlocal -a commands\ncommands=(\n{}  )\n"
      "if (( CURRENT == 2 )); then\n  _describe command commands\nelse\n  local command=$words[2]\n  shift words\n"
      "  (( CURRENT-- ))\n  case $command in\n{}  esac\nfi\n",
      names, cases);
}

std::string fish_script(const Json& table) {
  std::string script = "# Completion of saunter's words for fish.\n";
  for (const Json& command : table) {
    const std::string name = text(command, "name");
    script += fmt::format("complete -c saunter -n __fish_use_subcommand -f -a {} -d '{}'\n", name,
                          escaped(text(command, "summary"), "'\\", "\\"));
    for (const Json& option : command["options"]) {
      const Json& choices = option["choices"];
      std::string line = fmt::format("complete -c saunter -n '__fish_seen_subcommand_from {}'", name);
      const std::string word = text(option, "name");
      if (word.starts_with("--")) {
        line += " -l " + word.substr(2);
      } else if (is_option(option)) {
        line += " -s " + word.substr(1);
      } else if (choices.empty()) {
        continue;  // files are offered anyway
      }
      if (is_option(option) && takes_value(option)) line += option["file"] ? " -r -F" : " -x";
      if (!choices.empty()) line += " -a '" + joined(choices, " ") + "'";
      script += line + " -d '" + escaped(text(option, "help"), "'\\", "\\") + "'\n";
    }
  }
  return script;
}

class ManualCommand final : public Command {
 public:
  ManualCommand()
      : Command("manual", "the manual page, or completion of words for a shell, made from the program's own options",
                "manual bash > ~/.local/share/bash-completion/completions/saunter", Takes::nothing) {}

  void add_words(Words& words) override {
    words
        .choice<Form>("FORM", form_,
                      {{"man", Form::man}, {"bash", Form::bash}, {"zsh", Form::zsh}, {"fish", Form::fish}},
                      "man, bash, zsh or fish")
        .required();
  }

  Answer answer() override {
    const Json table = whole_table();
    Answer answer;
    switch (form_) {
      case Form::man: answer.text = man_page(table); break;
      case Form::bash: answer.text = bash_script(table); break;
      case Form::zsh: answer.text = zsh_script(table); break;
      case Form::fish: answer.text = fish_script(table); break;
    }
    answer.json = {{"command", "manual"}, {"commands", table}};
    return answer;
  }

 private:
  Form form_ = Form::man;
};

}  // namespace

std::unique_ptr<Command> make_manual() { return std::make_unique<ManualCommand>(); }

}  // namespace saunter::app
