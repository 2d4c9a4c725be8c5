#include <fmt/format.h>
#include <unistd.h>

#include <chrono>
#include <cstdio>
#include <functional>
#include <thread>
#include <vector>

#include "saunter/search/prepared.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

/// Tells on a terminal how far long work is, a few times a second.
class Progress {
 public:
  explicit Progress(const char* doing) : doing_(doing), terminal_(isatty(STDERR_FILENO) != 0) {}
  ~Progress() {
    if (told_) (void)std::fprintf(stderr, "\r\033[K");
  }
  Progress(const Progress&) = delete;
  Progress& operator=(const Progress&) = delete;
  void tell(double share) {
    const auto now = std::chrono::steady_clock::now();
    if (!terminal_ || now - last_ < std::chrono::milliseconds(200)) return;
    last_ = now;
    told_ = true;
    (void)std::fprintf(stderr, "\r%s: %d %%\033[K", doing_, static_cast<int>(100 * share));
    (void)std::fflush(stderr);
  }

 private:
  const char* doing_;
  bool terminal_;
  bool told_ = false;
  std::chrono::steady_clock::time_point last_ = std::chrono::steady_clock::now();
};

/// Each worker a thread.
void on_threads(std::size_t workers, const std::function<void(std::size_t)>& job) {
  std::vector<std::thread> threads;
  for (std::size_t worker = 1; worker < workers; ++worker) threads.emplace_back(job, worker);
  job(0);
  for (std::thread& thread : threads) thread.join();
}

class PrepareCommand final : public Command {
 public:
  PrepareCommand()
      : Command("prepare", "an index of a map for one mover, so that routes are looked up instead of searched for",
                "prepare demo/strand.toml --mover crab -o crab.idx", Takes::scenario) {}

  void add_words(Words& words) override {
    mover_words_.add_words(words);
    words.heading("Work");
    words.whole("--workers", workers_, 1, 256, "threads at a time (default: 1); the index is the same");
    words.whole("--most-megabytes", most_megabytes_, 1, 1'000'000,
                "keep the index about this small: questions then take longer");
    words.whole("--most-seconds", most_seconds_, 1, 1'000'000, "give up when it takes longer: nothing is written then");
    words.heading("Answer");
    words.file("-o", file_, "where to write it").required();
  }

  Answer answer() override {
    ready_.make(common, mover_words_);
    PrepareOptions options;
    if (most_megabytes_) options.most_bytes = static_cast<std::size_t>(*most_megabytes_) * 1'000'000;
    const auto began = std::chrono::steady_clock::now();
    Preparation preparation(ready_.costs, options);
    {
      Progress progress("preparing");
      while (!preparation.work(10'000, static_cast<std::size_t>(workers_), on_threads)) {
        progress.tell(preparation.share_done());
        if (most_seconds_ && std::chrono::steady_clock::now() - began > std::chrono::seconds(*most_seconds_)) {
          return too_long(preparation.share_done());
        }
      }
    }
    const Prepared index = preparation.take();
    const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();

    Answer answer;
    const auto bytes = index.bytes();
    add_file(answer, file_, {reinterpret_cast<const char*>(bytes.data()), bytes.size()});
    const PreparedFigures figures = index.figures();
    const double a_cell = static_cast<double>(figures.bytes) / static_cast<double>(ready_.costs.size().cell_count());
    answer.json = {
        {"command", "prepare"},   {"mover", ready_.mover->name}, {"places", figures.places},
        {"ways", figures.ways},   {"core", figures.core},        {"hubs", figures.hubs},
        {"bytes", figures.bytes}, {"file_bytes", bytes.size()},  {"seconds", json_cost(std::llround(seconds * 100))},
        {"file", file_}};
    answer.text = fmt::format(
        "{} prepared in {:.2f} s\n"
        "{} places, {} ways between them, {} hubs for the {} most important places\n"
        "{:.1f} MB in memory, {:.1f} bytes a cell\nwritten to {}\n",
        ready_.mover->name, seconds, figures.places, figures.ways, figures.hubs, figures.core,
        static_cast<double>(figures.bytes) / 1e6, a_cell, file_);
    return answer;
  }

 private:
  /// A "no": it takes longer than it may.
  [[nodiscard]] Answer too_long(double share_done) const {
    Answer answer;
    answer.exit_code = exit_no;
    answer.json = {{"command", "prepare"}, {"mover", ready_.mover->name}};
    for (const char* const key : {"places", "ways", "core", "hubs", "bytes", "file_bytes", "seconds", "file"}) {
      answer.json[key] = nullptr;
    }
    answer.text = fmt::format("{} not prepared: {} s were not enough ({} % done), nothing was written\n",
                              ready_.mover->name, *most_seconds_, static_cast<int>(100 * share_done));
    return answer;
  }

  MoverWords mover_words_;
  int workers_ = 1;
  std::optional<std::int64_t> most_seconds_;
  std::optional<std::int64_t> most_megabytes_;
  std::string file_;
  Ready ready_;
};

}  // namespace

std::unique_ptr<Command> make_prepare() { return std::make_unique<PrepareCommand>(); }

}  // namespace saunter::app
