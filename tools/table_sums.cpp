// Every sum with its usual numbers, what people say about it and the verdict, as Markdown: ./kestrel tables

#include "core/flight/sum.h"

#include <cstdio>
#include <iostream>

using namespace kestrel;

namespace {

std::string number(double v)
{
    char text[32];
    std::snprintf(text, sizeof text, "%.3g", v);
    return text;
}

} // namespace

int main()
{
    std::cout
        << "# Sums\n\nEvery sum with its usual numbers, made by `./kestrel tables`. A range is where the answer lies nine times "
           "in "
           "ten with what is\nuncertain: each number as well as it is usually known, the ball's drag over what papers give. "
           "Flight is gravity, drag with the\nsquare of the speed, and lift by spin (`src/core/flight/flight.h` names the "
           "sources); nothing here is measured on anybody.\n";
    for (const auto& card : sumCards()) {
        const auto answer = workOut(card, {});
        std::cout << "\n## " << card.title << " (`" << card.id << "`)\n\n" << card.question << "\n\n";
        if (!answer) {
            std::cout << answer.error().message << "\n";
            return 1;
        }
        std::cout << "With";
        for (std::size_t n = 0; n < card.variables.size(); ++n)
            std::cout << (n == 0 ? " " : ", ") << card.variables[n].id << " " << number(card.variables[n].usual) << " "
                      << card.variables[n].unit;
        std::cout << ":\n\n| | value | from | to | |\n|---|---|---|---|---|\n";
        for (const auto& r : answer->results)
            std::cout << "| " << r.words << " | " << number(r.value) << " | " << number(r.low) << " | " << number(r.high) << " | "
                      << r.unit << " |\n";
        std::cout << "\n\"" << answer->claim.text << "\" **" << plainWordsOf(answer->claim.verdict) << "**. " << answer->claim.why
                  << "\n\nAssumes: ";
        for (std::size_t n = 0; n < answer->assumes.size(); ++n)
            std::cout << (n == 0 ? "" : "; ") << answer->assumes[n];
        std::cout << ".\n";
        if (!answer->caution.empty())
            std::cout << "\n" << answer->caution << "\n";
    }
}
