// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/xml_check.h"

#include "core/base/text.h"

#include <expat.h>
#include <fmt/format.h>
#include <memory>

namespace underridge::exchange {
namespace {

struct Nesting {
    XML_Parser parser;
    int depth = 0;
};

void opened(void* data, const XML_Char*, const XML_Char**) {
    auto& nesting = *static_cast<Nesting*>(data);
    if (++nesting.depth > maxXmlDepth)
        XML_StopParser(nesting.parser, XML_FALSE);
}

void closed(void* data, const XML_Char*) {
    --static_cast<Nesting*>(data)->depth;
}

} // namespace

std::optional<Remark> xmlFault(const std::string& text, const std::string& file) {
    const std::unique_ptr<XML_ParserStruct, decltype(&XML_ParserFree)> parser(
        XML_ParserCreateNS("UTF-8", '\n'), XML_ParserFree);
    Nesting nesting{parser.get(), 0};
    XML_SetUserData(parser.get(), &nesting);
    XML_SetElementHandler(parser.get(), opened, closed);
    constexpr std::size_t piece = 1 << 20;
    for (std::size_t at = 0;; at += piece) {
        const std::size_t size = std::min(piece, text.size() - at);
        const bool last = at + size == text.size();
        if (XML_Parse(parser.get(), text.data() + at, static_cast<int>(size), last) != XML_STATUS_OK)
            break;
        if (last)
            return std::nullopt;
    }
    const Where where{file,
                      static_cast<int>(XML_GetCurrentLineNumber(parser.get())),
                      static_cast<int>(XML_GetCurrentColumnNumber(parser.get())) + 1,
                      {}};
    if (nesting.depth > maxXmlDepth)
        return error(fmt::format("elements are nested more than {} deep", maxXmlDepth), "choose another file",
                     where);
    return error(fmt::format("the document is not well-formed XML: {}",
                             lowered(XML_ErrorString(XML_GetErrorCode(parser.get())))),
                 "correct it or restore the file", where);
}

} // namespace underridge::exchange
