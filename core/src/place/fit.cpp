#include "saunter/place/fit.hpp"

#include "placement.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

Fitter::Fitter() : scratch_(std::make_unique<Scratch>()) {}
Fitter::~Fitter() = default;
Fitter::Fitter(Fitter&&) noexcept = default;
Fitter& Fitter::operator=(Fitter&&) noexcept = default;

std::uint64_t Fitter::cut_off_asked() const { return scratch_->asked; }
std::uint64_t Fitter::cut_off_answered_nearby() const { return scratch_->nearby; }

std::string_view fault_name(FitFault fault) {
  switch (fault) {
    case FitFault::off_map: return "off-map";
    case FitFault::ground: return "ground";
    case FitFault::barrier: return "barrier";
    case FitFault::occupied: return "occupied";
    case FitFault::threat: return "threat";
    case FitFault::rule: return "rule";
    case FitFault::covers: return "covers";
    case FitFault::cuts_off: return "cuts-off";
  }
  return "";
}

std::vector<FitProblem> Fitter::problems(const FitTerms& terms, const Footprint& footprint, const Pose& pose) {
  SAUNTER_EXPECT(terms.map != nullptr);
  if (terms.map == nullptr) return {{FitFault::off_map, pose.at}};
  detail::Placement placement(*scratch_, terms);
  std::vector<FitProblem> found;
  if (!placement.look_at_cells(footprint, pose, found)) return found;
  placement.look_at_rules(pose, found);
  placement.look_at_kept(found);
  return found;
}

void Fitter::first_problems(const FitTerms& terms, std::span<const FitQuestion> questions,
                            std::vector<std::optional<FitProblem>>& out) {
  out.clear();
  for (const FitQuestion& question : questions) {
    if (question.footprint == nullptr) {
      out.emplace_back(FitProblem{FitFault::off_map, question.pose.at});
      continue;
    }
    const std::vector<FitProblem> found = problems(terms, *question.footprint, question.pose);
    out.push_back(found.empty() ? std::nullopt : std::optional(found.front()));
  }
}

}  // namespace saunter::inline v0_2
