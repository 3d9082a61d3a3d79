// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/exact_json.h"

#include "core/exchange/record_json.h"

namespace underridge::exchange {
namespace {

/// Private-use characters that begin a marked number: no text of a document begins so by
/// chance.
constexpr std::string_view mark = "\xEE\x80\x80\xEE\x80\x81number:";

ExactJson fromView(JsonView view) {
    switch (view.kind()) {
    case JsonView::Kind::nothing:
    case JsonView::Kind::null:
        return nullptr;
    case JsonView::Kind::boolean:
        return *view.boolean();
    case JsonView::Kind::text:
        return view.text();
    case JsonView::Kind::number: {
        if (const auto whole = view.whole(); whole && std::to_string(*whole) == view.raw())
            return *whole;
        return std::string(mark) + std::string(view.raw());
    }
    case JsonView::Kind::array: {
        ExactJson array = ExactJson::array();
        view.forEach([&](JsonView element) { array.push_back(fromView(element)); });
        return array;
    }
    case JsonView::Kind::object: {
        ExactJson object = ExactJson::object();
        view.forEachMember(
            [&](std::string_view name, JsonView value) { object[std::string(name)] = fromView(value); });
        return object;
    }
    }
    return nullptr;
}

} // namespace

ExactJson exactJson(std::string_view text) {
    const auto parsed = JsonText::parse(std::string(text), {}, maxOwnDepth);
    return parsed ? fromView(parsed->root()) : ExactJson();
}

std::string exactText(const ExactJson& json) {
    const std::string text = json.dump(1, ' ', false, ExactJson::error_handler_t::replace);
    std::string out;
    out.reserve(text.size());
    const std::string quoted = '"' + std::string(mark);
    std::size_t from = 0;
    for (auto at = text.find(quoted); at != std::string::npos; at = text.find(quoted, from)) {
        out.append(text, from, at - from);
        const auto end = text.find('"', at + quoted.size());
        out.append(text, at + quoted.size(), end - at - quoted.size());
        from = end + 1;
    }
    return out.append(text, from, std::string::npos);
}

} // namespace underridge::exchange
