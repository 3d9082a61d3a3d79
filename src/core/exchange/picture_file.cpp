// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/picture_file.h"

#include "core/base/text.h"
#include "core/exchange/xml_check.h"

#include <cmath>
#include <fmt/format.h>
#include <nettle/base64.h>
#include <pugixml.hpp>

namespace underridge::exchange {
namespace {

Remark cutOff(const std::string& file, std::string_view what) {
    return error(fmt::format("the {} is cut off before its size is told", what),
                 "choose a file that is whole", {file});
}

std::uint32_t bigEndian(std::string_view bytes, std::size_t at, int count) {
    std::uint32_t value = 0;
    for (int i = 0; i < count; ++i)
        value = (value << 8U) | static_cast<unsigned char>(bytes[at + static_cast<std::size_t>(i)]);
    return value;
}

struct Size {
    std::int64_t width = 0, height = 0;
};

/// ISO/IEC 15948 clause 11.2.2: the header chunk comes first.
Result<Size> pngSize(std::string_view bytes, const std::string& file) {
    if (bytes.size() < 24 || bytes.substr(12, 4) != "IHDR")
        return cutOff(file, "PNG");
    return Size{bigEndian(bytes, 16, 4), bigEndian(bytes, 20, 4)};
}

/// ISO/IEC 10918-1 annex B: segments up to the frame header.
Result<Size> jpegSize(std::string_view bytes, const std::string& file) {
    for (std::size_t at = 2; at + 4 <= bytes.size();) {
        if (static_cast<unsigned char>(bytes[at]) != 0xFF)
            break;
        const auto marker = static_cast<unsigned char>(bytes[at + 1]);
        if (marker == 0xFF) { // fill byte
            ++at;
            continue;
        }
        if (marker == 0xD9 || marker == 0xDA)
            break;
        const bool frame =
            marker >= 0xC0 && marker <= 0xCF && marker != 0xC4 && marker != 0xC8 && marker != 0xCC;
        if (frame && at + 9 <= bytes.size())
            return Size{bigEndian(bytes, at + 7, 2), bigEndian(bytes, at + 5, 2)};
        const std::uint32_t length = bigEndian(bytes, at + 2, 2);
        if (length < 2)
            break;
        at += 2 + length;
    }
    return cutOff(file, "JPEG");
}

/// Whether a drawing refers to something outside itself.
bool refersOutside(const pugi::xml_node& node) {
    for (const pugi::xml_attribute attribute : node.attributes()) {
        const std::string_view name = attribute.name();
        const std::string value = trimmed(lowered(attribute.value()));
        if ((name == "href" || name.ends_with(":href")) && !value.empty() && value.front() != '#' &&
            !value.starts_with("data:"))
            return true;
    }
    for (const pugi::xml_node child : node.children())
        if (refersOutside(child))
            return true;
    return false;
}

/// A length of CSS in pixels: SVG 1.1 section 7.10; 0: none, or a part of what is around.
double lengthIn(std::string_view text) {
    const std::string low = trimmed(lowered(text));
    const char* end = nullptr;
    const double number = std::strtod(low.c_str(), const_cast<char**>(&end)); // NOLINT
    const std::string_view unit(end);
    const double factor = unit.empty() || unit == "px" ? 1
                          : unit == "mm"               ? 96 / 25.4
                          : unit == "cm"               ? 96 / 2.54
                          : unit == "in"               ? 96
                          : unit == "pt"               ? 96.0 / 72
                          : unit == "pc"               ? 16
                                                       : 0;
    return std::isfinite(number) ? number * factor : 0;
}

Result<Size> svgSize(const std::string& text, const std::string& file) {
    if (auto fault = xmlFault(text, file))
        return *fault;
    pugi::xml_document document;
    document.load_buffer(text.data(), text.size());
    const pugi::xml_node root = document.document_element();
    const std::string_view name = root.name();
    if (name != "svg" && !name.ends_with(":svg"))
        return error("the file is XML but no drawing", "choose an SVG, PNG or JPEG file", {file});
    if (refersOutside(root))
        return error("the drawing refers to other files",
                     "put what it refers to into it; nothing is fetched from elsewhere", {file});
    double width = lengthIn(root.attribute("width").value());
    double height = lengthIn(root.attribute("height").value());
    double left = 0, top = 0, wide = 0, high = 0;
    std::string box = root.attribute("viewBox").value();
    std::replace(box.begin(), box.end(), ',', ' ');
    if (std::sscanf(box.c_str(), "%lf %lf %lf %lf", &left, &top, &wide, &high) == 4 && wide > 0 && high > 0) {
        width = wide;
        height = high;
    }
    if (!(width >= 1 && width <= maxPictureSide * 2.0) || !(height >= 1 && height <= maxPictureSide * 2.0))
        return error("the drawing does not say how large it is", "give it a viewBox", {file});
    return Size{std::llround(width), std::llround(height)};
}

} // namespace

Result<Picture> readPicture(std::string bytes, const std::string& file) {
    if (bytes.size() > maxPictureBytes)
        return error(fmt::format("the picture has {:.0f} MB, more than {} MB",
                                 static_cast<double>(bytes.size()) / (1U << 20U), maxPictureBytes >> 20U),
                     "scale it down first", {file});
    Picture picture;
    const bool png = bytes.starts_with("\x89PNG\r\n\x1a\n"), jpeg = bytes.starts_with("\xFF\xD8\xFF");
    picture.media = png ? "image/png" : jpeg ? "image/jpeg" : "image/svg+xml";
    if (!png && !jpeg && bytes.substr(0, 4096).find("<svg") == std::string::npos &&
        bytes.substr(0, 4096).find(":svg") == std::string::npos)
        return error("the file is no picture that can be read", "choose a PNG, JPEG or SVG file", {file});
    const auto size = png ? pngSize(bytes, file) : jpeg ? jpegSize(bytes, file) : svgSize(bytes, file);
    if (!size)
        return size.refusal();
    if (size->width < 1 || size->height < 1 || size->width > maxPictureSide ||
        size->height > maxPictureSide || size->width * size->height > maxPicturePixels)
        return error(
            fmt::format("the picture is {} × {} pixels, more than can be drawn", size->width, size->height),
            fmt::format("scale it down to {} pixels a side and {} million in all", maxPictureSide,
                        maxPicturePixels / 1'000'000),
            {file});
    picture.width = static_cast<int>(size->width);
    picture.height = static_cast<int>(size->height);
    picture.bytes = std::move(bytes);
    return picture;
}

std::string toBase64(std::string_view bytes) {
    std::string out(BASE64_ENCODE_RAW_LENGTH(bytes.size()), '\0');
    base64_encode_raw(out.data(), bytes.size(), reinterpret_cast<const std::uint8_t*>(bytes.data()));
    return out;
}

std::optional<std::string> fromBase64(std::string_view text) {
    std::string out(BASE64_DECODE_LENGTH(text.size()) + 3, '\0');
    base64_decode_ctx context{};
    base64_decode_init(&context);
    std::size_t length = out.size();
    if (!base64_decode_update(&context, &length, reinterpret_cast<std::uint8_t*>(out.data()), text.size(),
                              text.data()) ||
        !base64_decode_final(&context))
        return std::nullopt;
    out.resize(length);
    return out;
}

} // namespace underridge::exchange
