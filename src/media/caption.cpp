#include "media/caption.h"

#include <algorithm>
#include <cstdio>

namespace kestrel::media {

namespace {

std::string stamp(MediaTime t, char point)
{
    const long long ms = std::max<long long>(0, t.nanoseconds / 1'000'000);
    char text[40];
    std::snprintf(text, sizeof text, "%02lld:%02lld:%02lld%c%03lld", ms / 3'600'000, ms / 60'000 % 60, ms / 1000 % 60, point,
                  ms % 1000);
    return text;
}

/// An empty line would end the caption.
std::string oneLine(std::string text)
{
    std::replace(text.begin(), text.end(), '\n', ' ');
    std::replace(text.begin(), text.end(), '\r', ' ');
    return text;
}

std::string withoutMarkup(const std::string& text)
{
    std::string plain;
    for (const char c : oneLine(text))
        plain += c == '<' ? "&lt;" : c == '&' ? "&amp;" : std::string(1, c);
    return plain;
}

} // namespace

std::string toSrt(const std::vector<Caption>& captions)
{
    std::string srt;
    int number = 0;
    for (const auto& c : captions)
        srt +=
            std::to_string(++number) + "\n" + stamp(c.from, ',') + " --> " + stamp(c.to, ',') + "\n" + oneLine(c.text) + "\n\n";
    return srt;
}

std::string toWebVtt(const std::vector<Caption>& captions)
{
    std::string vtt = "WEBVTT\n\n";
    for (const auto& c : captions)
        vtt += stamp(c.from, '.') + " --> " + stamp(c.to, '.') + "\n" + withoutMarkup(c.text) + "\n\n";
    return vtt;
}

} // namespace kestrel::media
