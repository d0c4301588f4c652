// A list of values that many copies of the list share: copying it copies no value, and editing a value copies
// that one. For documents of which every earlier state is kept.
//
//   SharedList<Entry> later = earlier;      // costs a pointer a value
//   later.edit(3).visible = false;          // earlier[3] is as it was
#pragma once

#include <algorithm>
#include <boost/iterator/indirect_iterator.hpp>
#include <initializer_list>
#include <memory>
#include <vector>

namespace anvil {

template <class T>
class SharedList {
  using Values = std::vector<std::shared_ptr<const T>>;

 public:
  using value_type = T;
  using const_iterator = boost::indirect_iterator<typename Values::const_iterator, const T>;
  using iterator = const_iterator;

  SharedList() = default;
  SharedList(std::initializer_list<T> values) {
    for (const T& value : values) push_back(value);
  }

  [[nodiscard]] const_iterator begin() const { return const_iterator(values_.begin()); }
  [[nodiscard]] const_iterator end() const { return const_iterator(values_.end()); }
  [[nodiscard]] size_t size() const { return values_.size(); }
  [[nodiscard]] bool empty() const { return values_.empty(); }
  [[nodiscard]] const T& operator[](size_t place) const { return *values_[place]; }
  [[nodiscard]] const T& front() const { return *values_.front(); }
  [[nodiscard]] const T& back() const { return *values_.back(); }

  // The value at a place, this list's own from now on. Two threads may edit two lists that share values.
  T& edit(size_t place) {
    std::shared_ptr<const T>& value = values_[place];
    value = std::make_shared<T>(*value);
    return const_cast<T&>(*value);  // made as no constant, and nobody else has it
  }
  // Edits the first value that `which` says; null when there is none.
  template <class Which>
  T* edit_where(Which which) {
    const auto at = std::find_if(begin(), end(), which);
    return at == end() ? nullptr : &edit(static_cast<size_t>(at - begin()));
  }
  // Edits every value that `which` says.
  template <class Which, class Edit>
  void edit_each(Which which, Edit&& change) {
    for (size_t i = 0; i < size(); ++i)
      if (which((*this)[i])) change(edit(i));
  }

  void push_back(T value) { values_.push_back(std::make_shared<T>(std::move(value))); }
  void insert(const_iterator before, T value) {
    values_.insert(before.base(), std::make_shared<T>(std::move(value)));
  }
  void erase(const_iterator at) { values_.erase(at.base()); }
  template <class Which>
  size_t erase_if(Which which) {
    return std::erase_if(values_, [&](const auto& value) { return which(*value); });
  }
  void swap_places(size_t a, size_t b) { std::swap(values_[a], values_[b]); }
  // `order`: for each place, which value comes there.
  void put_in_order(const std::vector<size_t>& order) {
    Values ordered;
    ordered.reserve(order.size());
    for (const size_t place : order) ordered.push_back(values_[place]);
    values_ = std::move(ordered);
  }

  // Whether both have the same value there without comparing it.
  [[nodiscard]] bool shares(size_t place, const SharedList& other) const {
    return place < size() && place < other.size() && values_[place] == other.values_[place];
  }

 private:
  Values values_;
};

}  // namespace anvil
