// SPDX-License-Identifier: GPL-3.0-or-later
// Remarks about an RFC 8345 document, with the place in it.
#pragma once
#include "core/exchange/building.h"
#include "core/exchange/json_view.h"

namespace underridge::exchange::rfc8345 {

class DocumentRemarks {
public:
    DocumentRemarks(Remarks& remarks, std::string file, const JsonText& document)
        : remarks_(remarks), file_(std::move(file)), lines_(document.text()) {}

    void warn(std::string what, std::string remedy, JsonView at, std::string object = {});
    /// Of members with a name of the standard and the module of another: they are not what they
    /// look like.
    void strangers(JsonView object, std::initializer_list<std::string_view> names);
    Where where(JsonView at) const { return lines_.at(file_, at.offset()); }

private:
    Remarks& remarks_;
    std::string file_;
    Lines lines_;
};

} // namespace underridge::exchange::rfc8345
