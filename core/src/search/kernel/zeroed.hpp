/// @file
/// Large memory that begins as zeros.
#pragma once

#include <cstddef>
#include <type_traits>
#include <utility>

namespace saunter::inline v0_2::detail {

/// So many zeroed bytes; throws std::bad_alloc when there is no memory for them, where there are exceptions.
[[nodiscard]] void* zeroed_memory(std::size_t bytes);
void free_zeroed(void* memory, std::size_t bytes);

/// A list of zeros. The system hands out large ones page by page as they are touched, where it can: one that is as
/// large as a board costs what is used of it.
template <typename T>
class Zeroed {
  static_assert(std::is_trivially_copyable_v<T> && std::is_trivially_destructible_v<T>);

 public:
  Zeroed() = default;
  Zeroed(Zeroed&& other) noexcept
      : values_(std::exchange(other.values_, nullptr)), size_(std::exchange(other.size_, 0)) {}
  Zeroed& operator=(Zeroed&& other) noexcept {
    std::swap(values_, other.values_);
    std::swap(size_, other.size_);
    if (this != &other) other.forget();
    return *this;
  }
  Zeroed(const Zeroed&) = delete;
  Zeroed& operator=(const Zeroed&) = delete;
  ~Zeroed() { forget(); }

  /// So many zeros, in place of what was there; empty when there is no memory for them.
  void make(std::size_t count) {
    forget();
    if (count == 0) return;
    values_ = static_cast<T*>(zeroed_memory(count * sizeof(T)));
    size_ = count;
  }
  [[nodiscard]] std::size_t size() const { return size_; }
  [[nodiscard]] T* data() { return values_; }
  [[nodiscard]] const T* data() const { return values_; }
  [[nodiscard]] T& operator[](std::size_t at) { return values_[at]; }
  [[nodiscard]] const T& operator[](std::size_t at) const { return values_[at]; }
  [[nodiscard]] std::size_t memory() const { return size_ * sizeof(T); }

 private:
  void forget() {
    if (values_ != nullptr) free_zeroed(values_, size_ * sizeof(T));
    values_ = nullptr;
    size_ = 0;
  }

  T* values_ = nullptr;
  std::size_t size_ = 0;
};

}  // namespace saunter::inline v0_2::detail
