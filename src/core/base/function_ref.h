// SPDX-License-Identifier: GPL-3.0-or-later
// A reference to something that can be called: for parameters that are called before the
// function returns. It owns nothing and costs one indirect call, so that what takes it
// need not be a template.
#pragma once
#include <memory>
#include <type_traits>
#include <utility>

namespace underridge {

template <class Signature>
class FunctionRef;

template <class Answer, class... Arguments>
class FunctionRef<Answer(Arguments...)> {
public:
    /// REQUIRES: `callable` outlives this reference.
    template <class Callable>
    requires(!std::is_same_v<std::remove_cvref_t<Callable>, FunctionRef>) FunctionRef(Callable&& callable)
        : callable_(const_cast<void*>(static_cast<const void*>(std::addressof(callable)))),
          call_([](void* held, Arguments... arguments) -> Answer {
              return (*static_cast<std::remove_reference_t<Callable>*>(held))(
                  std::forward<Arguments>(arguments)...);
          }) {}

    Answer operator()(Arguments... arguments) const {
        return call_(callable_, std::forward<Arguments>(arguments)...);
    }

private:
    void* callable_;
    Answer (*call_)(void*, Arguments...);
};

} // namespace underridge
