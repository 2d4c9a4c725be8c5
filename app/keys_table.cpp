#include <array>

#include "keys.hpp"

namespace saunter::app {
namespace {

constexpr auto survey_keys = std::to_array<Key>({
    {"title", "text", "the scenario's", ""},
    {"tiling", "tiling", "the shape of its cells", ""},
    {"size", "pair", "columns and rows", ""},
    {"movers[]", "object", "each mover, or the one of --mover", ""},
    {"movers[].name", "text", "as the file names it", ""},
    {"movers[].steps", "count", "directions it steps in", ""},
    {"movers[].size", "count", "cells across", ""},
    {"movers[].walkable", "count", "cells it can stand on", ""},
    {"movers[].regions", "count", "parts of the map it can't get between", ""},
    {"movers[].share", "number", "of all cells, in percent", ""},
    {"movers[].by_size[]", "object", "the same for movers of other sizes", ""},
    {"movers[].by_size[].size", "count", "cells across", ""},
    {"movers[].by_size[].walkable", "count", "cells it could stand on", ""},
    {"movers[].by_size[].regions", "count", "into how many regions they fall", ""},
    {"movers[].by_size[].largest", "count", "cells of the largest of these", ""},
    {"terrain[]", "object", "each kind of ground", ""},
    {"terrain[].name", "text", "as the file names it", ""},
    {"terrain[].glyph", "text", "its character", ""},
    {"terrain[].cells", "count", "how many cells are of it", ""},
    {"terrain[].cost", "cost or null", "of entering it; null: blocked", ""},
    {"regions", "count or null", "of the first mover listed", ""},
    {"units[]", "object", "each unit on the map", ""},
    {"units[].name", "text", "as the file names it", ""},
    {"units[].at", "cell", "where it is", ""},
    {"units[].cells", "cells", "all that it covers", ""},
    {"threats[]", "object", "each threat", ""},
    {"threats[].name", "text", "as the file names it", ""},
    {"threats[].at", "cell", "where it is", ""},
    {"threats[].range", "cost", "how far it reaches, in steps", ""},
    {"spots[]", "object", "each named cell", ""},
    {"spots[].name", "text", "as the file names it", ""},
    {"spots[].at", "cell", "where it is", ""},
    {"patrols[]", "object", "each patrol", ""},
    {"patrols[].name", "text", "as the file names it", ""},
    {"patrols[].mover", "text", "who walks it", ""},
    {"patrols[].cells", "cells", "its way points", ""},
    {"patrols[].loop", "flag", "whether it goes round and round", ""},
    {"notes[]", "text", "what may be a slip: terrain never used, units on blocked ground", ""},
});

constexpr auto route_keys = std::to_array<Key>({
    {"found", "flag", "whether there is a way", ""},
    {"algorithm", "text", "the search that found it", ""},
    {"cost", "cost or null", "of the whole way", ""},
    {"steps", "count or null", "how many it has", ""},
    {"expanded", "count", "cells checked; states kept, with --front", ""},
    {"path", "cells or null", "the way from start to goal, both included", ""},
    {"reason", "reason or null", "why there is none; null: there is one", ""},
    {"at", "cell or null", "the cell that is the trouble, or the one nearest to the goal", ""},
    {"exposure", "cost or null", "danger of the cells entered, each level a step, added up", ""},
    {"weighed", "cost or null", "cost with danger weighed in", ""},
    {"waypoints", "cells or null", "the way's corners after --straighten", ""},
    {"natural", "flag or null", "whether the way is the natural one of its cost", "with --natural"},
    {"remaining", "cost or null", "from the nearest cell there is a way to, to the goal", "with --or-nearest"},
    {"order[]", "cell", "the goals in the order they are visited", "with --order"},
    {"proven", "flag", "whether no order is better", "with --order"},
    {"exposed_steps", "count or null", "steps onto cells with danger", "when danger is weighed"},
    {"covered_steps", "count or null", "steps onto cells without", "when danger is weighed"},
    {"longest_exposed", "count or null", "steps of the longest exposed stretch", "when danger is weighed"},
    {"longest_exposed_cost", "cost or null", "what that stretch costs", "when danger is weighed"},
    {"waits", "count or null", "ticks stood still", "with --tick"},
    {"front[]", "object", "all ways worth choosing from, the cheapest first", "with --front"},
    {"front[].cost", "cost", "of this way", ""},
    {"front[].exposure", "cost", "of this way", ""},
    {"front[].path", "cells", "its cells", ""},
    {"complete", "flag", "whether these are all", "with --front"},
    {"turns_end", "cells or null", "where each turn ends", "with --turns"},
    {"last_turn", "cost or null", "what the last turn uses of its points", "with --turns"},
});

constexpr auto reach_keys = std::to_array<Key>({
    {"budget", "cost or null", "movement points asked for", ""},
    {"cells[]", "reached", "column, row and cost of each cell where the move may end", ""},
    {"left[]", "cost or null", "points left on each of these cells; null without --budget", ""},
    {"overflowed", "flag", "whether cells are left out because their cost does not fit", ""},
    {"reason", "reason or null", "why nothing can be reached", ""},
    {"at", "cell or null", "the cell that is the trouble", ""},
    {"in_range", "cells", "what can be acted on after the move", "with --range"},
    {"act_from", "cells", "from where, for each of these", "with --range"},
    {"why", "object", "the one reason for the cell asked about", "with --why"},
    {"why.at", "cell", "the cell asked about", ""},
    {"why.move", "turn-answer", "whether the move may end there, and why not", ""},
    {"why.cost", "cost or null", "of getting there", ""},
    {"why.left", "cost or null", "points left there", ""},
    {"why.missing", "cost or null", "points that are missing", ""},
    {"why.place", "cell or null", "the stop between, or the cell that is occupied", ""},
    {"why.by", "text or null", "who is in the way", ""},
    {"why.act", "act-answer or null", "whether it can be acted on (--range)", ""},
    {"why.act_from", "cell or null", "from where", ""},
});

constexpr auto field_keys = std::to_array<Key>({
    {"goals", "cells", "those that can be used", ""},
    {"unused[]", "object", "each goal left out", ""},
    {"unused[].reason", "reason", "why", ""},
    {"unused[].at", "cell", "the goal", ""},
    {"reached", "count", "cells with a way to a goal", ""},
    {"overflowed", "flag", "whether cells are left out because their cost does not fit", ""},
    {"reason", "reason or null", "why no goal can be used", ""},
    {"at", "cell or null", "the goal that is the trouble", ""},
});

constexpr auto compare_keys = std::to_array<Key>({
    {"runs[]", "object", "each search or walker, in the order asked", ""},
    {"runs[].algorithm", "text", "as asked for", ""},
    {"runs[].used", "text", "what ran: automatic chooses", ""},
    {"runs[].found", "flag", "whether it found a way", ""},
    {"runs[].cost", "cost or null", "of its way, a walker's without loops", ""},
    {"runs[].steps", "count or null", "of its way; those a walker walked", ""},
    {"runs[].expanded", "count", "cells checked; the cells a walker was on", ""},
    {"runs[].micros", "number", "median time, in millionths of a second", ""},
    {"runs[].optimal", "flag or null", "whether no way costs less", ""},
    {"runs[].exposure", "cost or null", "danger of the cells entered, added up", ""},
    {"runs[].weighed", "cost or null", "cost with danger weighed in, of the wary route", ""},
    {"runs[].memory", "count", "bytes it works in", ""},
    {"runs[].way_steps", "count or null", "of its way, a walker's without loops", ""},
    {"runs[].ends_by", "walk-end", "how a walk ended", "of walkers"},
    {"reason", "reason or null", "why no way is there to compare", ""},
    {"at", "cell or null", "the cell that is the trouble", ""},
});

constexpr auto regions_keys = std::to_array<Key>({
    {"regions[]", "object", "each region, the one with the first cell first", ""},
    {"regions[].id", "count", "its number, from 1", ""},
    {"regions[].cells", "count", "how many it has", ""},
    {"regions[].box", "box", "first column and row, last column and row", ""},
    {"regions[].first", "cell", "its first cell, by rows", ""},
    {"cut_off", "cells or null", "what can't be reached from --from", ""},
    {"no_return", "cells or null", "what can be reached, but not come back from", ""},
    {"joins[]", "object or null", "which cells to open so that all meet; null without --join", ""},
    {"joins[].from", "count", "a region's number", ""},
    {"joins[].to", "count", "another's", ""},
    {"joins[].cost", "cost", "of opening them", ""},
    {"joins[].opens", "cells", "the cells to open", ""},
    {"chokes", "cells or null", "cells whose loss would split a region", ""},
    {"apart[]", "count", "regions that nothing can join", "with --join"},
});

constexpr auto sight_keys = std::to_array<Key>({
    {"sees", "flag or null", "whether --from sees --to", ""},
    {"visible", "cells or null", "all that is seen, without --to", ""},
    {"reason", "sight-reason or null", "why it is not seen", ""},
    {"at", "cell or null", "the cell that hides it, or is too far", ""},
});

constexpr auto threat_keys = std::to_array<Key>({
    {"cells", "count", "how many have danger", ""},
    {"max", "count", "the highest level", ""},
    {"at", "cell or null", "the cell asked about", ""},
    {"level", "count or null", "its danger", ""},
    {"sides", "counts or null", "its danger by the side it comes from", ""},
    {"sources[]", "object or null", "each threat that reaches it; null without --at", ""},
    {"sources[].name", "text", "as the file names it", ""},
    {"sources[].level", "count", "its part of the level", ""},
    {"sources[].side", "text or null", "where it comes from; null: it stands there", ""},
    {"tick", "count", "the moment told about", ""},
    {"around", "object", "danger by where a unit that stands there looks", "with --facing"},
    {"around.ahead", "count", "a level", ""},
    {"around.behind", "count", "a level", ""},
    {"around.left", "count", "a level", ""},
    {"around.right", "count", "a level", ""},
});

constexpr auto fit_keys = std::to_array<Key>({
    {"fits", "flag or null", "whether it can be put at --at", ""},
    {"reasons[]", "object or null", "everything that speaks against it; null without --at", ""},
    {"reasons[].why", "fit-fault", "what is wrong", ""},
    {"reasons[].at", "cell", "where", ""},
    {"reasons[].by", "text or null", "the unit, the rule, the terrain", ""},
    {"reasons[].across", "cell or null", "barrier: the other covered cell it lies between", ""},
    {"reasons[].apart_from", "cell or null", "the kept cell it would be parted from", ""},
    {"spots", "cells or null", "all places where it fits (--all)", ""},
    {"nearest", "cell or null", "the place nearest to --nearest", ""},
});

constexpr auto scatter_keys = std::to_array<Key>({
    {"seed", "count", "the same seed puts the same down", ""},
    {"asked", "count", "how many were wanted", ""},
    {"placed[]", "object", "each, in the order they were put down", ""},
    {"placed[].footprint", "text", "as it was given", ""},
    {"placed[].at", "cell", "its first cell", ""},
    {"placed[].turn", "count", "quarter or sixth turns", ""},
    {"placed[].mirrored", "flag", "whether it is mirrored", ""},
    {"placed[].cells", "cells", "all that it covers", ""},
    {"tried", "count", "cells tried", ""},
    {"passed_by", "count", "cells that chance left out", ""},
    {"too_near", "count", "cells too near to another", ""},
    {"refused", "counts", "cells where it did not fit, by the reason", ""},
});

constexpr auto check_keys = std::to_array<Key>({
    {"ok", "flag", "whether the way can be walked", ""},
    {"problems[]", "object", "everything that is wrong, in order", ""},
    {"problems[].step", "count", "0 is standing on the first cell", ""},
    {"problems[].at", "cell", "the cell stepped onto", ""},
    {"problems[].why", "path-fault", "what is wrong", ""},
    {"problems[].by", "text or null", "who is in the way", ""},
    {"problems[].patrol", "text", "whose way it is", "without --path"},
    {"cost", "cost or null", "of the way; null: it can't be walked", ""},
    {"exposure", "cost or null", "danger of the cells entered, added up", ""},
    {"longest_exposed", "count or null", "steps of the longest exposed stretch", ""},
    {"turns", "count or null", "how often it changes its heading", ""},
    {"patrols[]", "object", "each patrol of the file", "without --path"},
    {"patrols[].name", "text", "as the file names it", ""},
    {"patrols[].mover", "text", "who walks it", ""},
    {"patrols[].ok", "flag", "whether it can be walked", ""},
    {"patrols[].problems[]", "object", "everything that is wrong with it", ""},
    {"patrols[].problems[].step", "count", "0 is standing on the first cell", ""},
    {"patrols[].problems[].at", "cell", "the cell stepped onto", ""},
    {"patrols[].problems[].why", "path-fault", "what is wrong", ""},
    {"patrols[].problems[].by", "text or null", "who is in the way", ""},
    {"patrols[].cost", "cost or null", "of the way", ""},
    {"patrols[].exposure", "cost or null", "danger of the cells entered, added up", ""},
    {"patrols[].longest_exposed", "count or null", "steps of the longest exposed stretch", ""},
    {"patrols[].turns", "count or null", "how often it changes its heading", ""},
});

constexpr auto draw_keys = std::to_array<Key>({
    {"file", "text or null", "the picture written", ""},
    {"width", "count", "in pixels", ""},
    {"height", "count", "in pixels", ""},
});

constexpr auto layer_keys = std::to_array<Key>({
    {"layer", "text", "which", ""},
    {"size", "pair", "columns and rows", "without --out"},
    {"rows[]", "numbers", "each row; null: the cell has no number", "without --out"},
    {"file", "text", "the file written", "with --out"},
});

constexpr auto convert_keys = std::to_array<Key>({
    {"files[]", "text", "the files written, the scenario first", ""},
});

constexpr auto generate_keys = std::to_array<Key>({
    {"kind", "text", "maze, cave or rooms", ""},
    {"by", "text", "the method", ""},
    {"size", "pair", "columns and rows", ""},
    {"tiling", "text", "the shape of its cells", ""},
    {"seed", "count", "the same words and seed make the same map", ""},
    {"open", "count", "cells that can be entered", ""},
    {"regions", "count", "parts of it", ""},
    {"dead_ends", "count or null", "of a maze", ""},
    {"asked", "count or null", "rooms wanted", ""},
    {"placed", "count or null", "rooms made", ""},
    {"rooms[]", "box or null", "first column and row, last column and row; null for other kinds", ""},
    {"corridors[]", "cells or null", "the cells of each corridor; null for other kinds", ""},
    {"doors", "cells or null", "where rooms open", ""},
    {"file", "text or null", "the scenario written", ""},
});

constexpr auto walk_keys = std::to_array<Key>({
    {"walker", "text", "how it chooses its steps", ""},
    {"arrived", "flag", "whether it got to the goal", ""},
    {"reason", "walk-reason", "how it ended, or why an end can't be used", ""},
    {"at", "cell or null", "the end that can't be used", ""},
    {"steps", "count or null", "how many it walked", ""},
    {"visited", "count or null", "cells it was on", ""},
    {"revisits", "count or null", "steps onto cells it had been on", ""},
    {"restarts", "count or null", "times it began anew to look for the way", ""},
    {"path", "cells or null", "every cell in order", ""},
});

constexpr auto play_keys = std::to_array<Key>({
    {"ticks[]", "object", "each tick", ""},
    {"ticks[].tick", "count", "its number, from 0", ""},
    {"ticks[].changed", "cells", "cells whose terrain, sides, unit or level of danger is another now", ""},
    {"ticks[].refused[]", "object", "edits that could not be made", ""},
    {"ticks[].refused[].edit", "count", "which of the script, from 1", ""},
    {"ticks[].refused[].why", "text", "the reason", ""},
    {"ticks[].refused[].at", "cell or null", "where", ""},
    {"ticks[].refused[].by", "text or null", "who is in the way", ""},
    {"ticks[].events[]", "object", "what happened to routes", ""},
    {"ticks[].events[].unit", "text", "whose", ""},
    {"ticks[].events[].what", "standing", "whether it holds, was replaced by a better one, or is broken", ""},
    {"ticks[].events[].at", "cell or null", "where it is broken", ""},
    {"ticks[].events[].cost", "cost or null", "still to go; null: no way", ""},
    {"units[]", "object", "each that goes, in the script's order", ""},
    {"units[].name", "text", "as the script names it", ""},
    {"units[].arrived", "count or null", "the tick", ""},
    {"units[].path", "cells", "the cells it was on", ""},
    {"units[].cost", "cost", "of what it walked", ""},
    {"work", "object", "places looked at by searches", ""},
    {"work.expanded", "count", "as it was played", ""},
    {"work.fresh_expanded", "count", "had each search begun anew", ""},
});

constexpr auto prepare_keys = std::to_array<Key>({
    {"mover", "text", "whose ways are looked up", ""},
    {"places", "count or null", "that the index knows", ""},
    {"ways", "count or null", "between them", ""},
    {"core", "count or null", "the most important places", ""},
    {"hubs", "count or null", "entries of their lists", ""},
    {"bytes", "count or null", "in memory", ""},
    {"file_bytes", "count or null", "in the file", ""},
    {"seconds", "number or null", "it took", ""},
    {"file", "text or null", "written; null: it took longer than it may", ""},
});

constexpr auto gather_keys = std::to_array<Key>({
    {"placed", "count", "units that have a place", ""},
    {"sum", "cost or null", "of all their ways", ""},
    {"last", "cost or null", "of the costliest", ""},
    {"places", "cells", "one for each unit: the formation's, then those nearest to the rally cell", ""},
    {"units[]", "object", "each, in the order given", ""},
    {"units[].from", "cell", "where it is", ""},
    {"units[].to", "cell or null", "its place; null: none it can get to", ""},
    {"units[].cost", "cost or null", "of its way", ""},
    {"units[].path", "cells or null", "its way", ""},
    {"reason", "reason or null", "why nobody gathers", ""},
    {"at", "cell or null", "the cell that is the trouble", ""},
});

constexpr auto serve_keys = std::to_array<Key>({
    {"address", "text", "of the page, printed once it is there", ""},
});

constexpr auto manual_keys = std::to_array<Key>({
    {"commands[]", "object", "each command", ""},
    {"commands[].name", "text", "as it is typed", ""},
    {"commands[].summary", "text", "what it is for", ""},
    {"commands[].example", "text", "words behind saunter", ""},
    {"commands[].options[]", "object", "each option", ""},
    {"commands[].options[].name", "text", "as it is typed", ""},
    {"commands[].options[].heading", "text", "the group it is listed in", ""},
    {"commands[].options[].help", "text", "what it does", ""},
    {"commands[].options[].takes", "text", "its value; empty: it takes none", ""},
    {"commands[].options[].choices[]", "text", "the words its value is one of; none: others", ""},
    {"commands[].options[].file", "flag", "whether its value names a file", ""},
    {"commands[].options[].required", "flag", "whether it must be given", ""},
    {"commands[].options[].several", "flag", "whether it can be given more than once", ""},
});

constexpr auto keys_keys = std::to_array<Key>({
    {"of", "text", "the command asked about", ""},
    {"keys[]", "object", "each key of its object", ""},
    {"keys[].path", "text", "[] stands for each entry of a list", ""},
    {"keys[].type", "text", "what its value is", ""},
    {"keys[].meaning", "text", "for a person", ""},
    {"keys[].with", "text", "when it is there; empty: always", ""},
});

constexpr auto demo_keys = std::to_array<Key>({
    {"stops[]", "object", "each stop of the tour", ""},
    {"stops[].shows", "text", "what is seen", ""},
    {"stops[].run", "text", "the command line", ""},
    {"stops[].exit", "count", "its exit code", ""},
    {"stops[].picture", "text", "the file written", ""},
});

constexpr std::array all_keys = {
    CommandKeys{"survey", survey_keys},   CommandKeys{"route", route_keys},     CommandKeys{"reach", reach_keys},
    CommandKeys{"field", field_keys},     CommandKeys{"compare", compare_keys}, CommandKeys{"regions", regions_keys},
    CommandKeys{"sight", sight_keys},     CommandKeys{"threat", threat_keys},   CommandKeys{"fit", fit_keys},
    CommandKeys{"scatter", scatter_keys}, CommandKeys{"check", check_keys},     CommandKeys{"draw", draw_keys},
    CommandKeys{"layer", layer_keys},     CommandKeys{"convert", convert_keys}, CommandKeys{"generate", generate_keys},
    CommandKeys{"walk", walk_keys},       CommandKeys{"play", play_keys},       CommandKeys{"prepare", prepare_keys},
    CommandKeys{"gather", gather_keys},   CommandKeys{"serve", serve_keys},     CommandKeys{"manual", manual_keys},
    CommandKeys{"keys", keys_keys},       CommandKeys{"demo", demo_keys}};

}  // namespace

std::span<const CommandKeys> key_table() { return all_keys; }

}  // namespace saunter::app
