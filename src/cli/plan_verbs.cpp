#include "cli/arguments.h"
#include "cli/verbs.h"
#include "core/base/json_reader.h"
#include "core/base/part_file.h"
#include "core/judge/review.h"
#include "core/pack/pack_folder.h"
#include "core/plan/planner.h"
#include "report/plan_calendar.h"
#include "report/plan_sheet.h"

#include <QDateTime>
#include <QString>

#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>

namespace kestrel::cli {

namespace {

/// "ball,glove": separated by commas, given once or often.
std::vector<std::string> listOf(const std::vector<std::string>& given)
{
    std::vector<std::string> words;
    for (const auto& one : given) {
        std::string word;
        for (const char c : one + ",") {
            if (c != ',')
                word += c;
            else if (!word.empty())
                words.push_back(std::exchange(word, {}));
        }
    }
    return words;
}

Expected<Date> dateOf(const std::string& name, const std::string& text)
{
    if (const auto date = parseDate(text))
        return *date;
    return fail(ErrorCode::BadArgument, "--" + name + " is a day such as 2026-04-11; \"" + text + "\" is none.");
}

/// The words that drills use for kit.
Expected<std::set<std::string>> kitWords()
{
    const auto root = loadJson(shippedFolder("packs") + "/drills.json");
    if (!root)
        return tl::unexpected(root.error());
    return root->at("kit").get<std::set<std::string>>();
}

bool endsWith(const std::string& file, const std::string& ending)
{
    return QString::fromStdString(file).endsWith(QString::fromStdString(ending), Qt::CaseInsensitive);
}

Expected<void> save(const Plan& made, const Pack& pack, const std::string& file)
{
    if (endsWith(file, ".json"))
        return saveText(file, printed(toJson(made), 2));
    if (endsWith(file, ".ics"))
        return saveText(
            file,
            report::toCalendar(made, pack,
                               QDateTime::currentDateTimeUtc().toString(QStringLiteral("yyyyMMdd'T'HHmmss'Z'")).toStdString()));
    if (endsWith(file, ".pdf") || endsWith(file, ".html") || endsWith(file, ".png"))
        return report::saveDocument(report::documentOf(made, pack), file);
    return fail(ErrorCode::BadArgument, "The name has to end in .json, .ics, .pdf, .png or .html.", file);
}

} // namespace

VerbResult plan(const Words& words, Streams io)
{
    Arguments args(words, {"review", "pack", "start", "days", "weeks", "kit", "space", "minutes", "book", "out", "previous",
                           "player", "age", "not-on", "today"});
    args.noPlain();
    const std::string reviewFile = args.required("review"), packName = args.required("pack"), start = args.required("start"),
                      weekdays = args.required("days"), out = args.required("out");
    PlanWish wish;
    wish.weeks = static_cast<int>(args.number("weeks", 1, 6).value_or(2));
    wish.intake.minutes = args.number("minutes", 5, 180).value_or(20);
    wish.age = args.number("age", 1, 120);
    wish.player = args.text("player").value_or("");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    const auto pack = findPack(packName);
    if (!pack)
        return tl::unexpected(pack.error());
    const auto review = loadReview(reviewFile);
    if (!review)
        return tl::unexpected(review.error());
    if (review->pack != pack->id)
        return fail(ErrorCode::WrongField, "The review is of \"" + review->pack + "\", the pack is \"" + pack->id + "\".",
                    reviewFile, "/pack");
    if (!review->stop.empty())
        return fail(ErrorCode::BadArgument, "Pain was noted for this day: there is no plan. " + review->stop, reviewFile);
    wish.faults = tasksOf(*review);
    if (!wish.age)
        wish.age = review->athlete.age;
    const auto from = dateOf("start", start);
    if (!from)
        return tl::unexpected(from.error());
    wish.start = *from;
    const auto days = parseWeekdays(weekdays);
    if (!days)
        return fail(ErrorCode::BadArgument,
                    "--days is a list of mon, tue, wed, thu, fri, sat, sun, such as mon,wed,sat; \"" + weekdays + "\" is none.");
    wish.intake.weekdays = *days;
    for (const auto& day : listOf(args.all("not-on"))) {
        const auto date = dateOf("not-on", day);
        if (!date)
            return tl::unexpected(date.error());
        wish.intake.notOn.insert(*date);
    }
    if (const auto kit = args.all("kit"); !kit.empty()) {
        const auto known = kitWords();
        if (!known)
            return tl::unexpected(known.error());
        wish.intake.kit.emplace();
        for (const auto& word : listOf(kit)) {
            if (word != "none" && !known->count(word)) {
                std::string list;
                for (const auto& k : *known)
                    list += (list.empty() ? "" : ", ") + k;
                return fail(ErrorCode::BadArgument, "--kit has no \"" + word + "\"; it has none, " + list + ".");
            }
            wish.intake.kit->insert(word);
        }
    }
    if (const auto space = args.text("space")) {
        wish.intake.space = *space;
        if (!findPracticeSpace(*space))
            return fail(ErrorCode::BadArgument, "--space is indoors, garden or court.");
    }
    if (const auto file = args.text("book")) {
        auto book = loadBook(*file);
        if (!book)
            return tl::unexpected(book.error());
        wish.book = std::move(*book);
    }
    std::optional<Plan> before;
    if (const auto file = args.text("previous")) {
        auto loaded = loadPlan(*file);
        if (!loaded)
            return tl::unexpected(loaded.error());
        before = std::move(*loaded);
    }
    std::optional<Date> today;
    if (const auto text = args.text("today")) {
        const auto date = dateOf("today", *text);
        if (!date)
            return tl::unexpected(date.error());
        today = *date;
    }
    const auto rule = shippedWorkloadRule();
    if (!rule)
        return tl::unexpected(rule.error());
    const auto made = makePlan(*pack, *rule, wish, before ? &*before : nullptr, today);
    if (!made)
        return tl::unexpected(made.error());
    if (auto saved = save(*made, *pack, out); !saved)
        return tl::unexpected(saved.error());
    io.out << printed(toJson(*made), 2);
    return Done;
}

VerbResult workload(const Words& words, Streams io)
{
    Arguments args(words, {"book", "on", "age", "rule"});
    args.noPlain();
    const std::string bookFile = args.required("book"), on = args.required("on");
    const auto age = args.number("age", 0, 120);
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    const auto book = loadBook(bookFile);
    if (!book)
        return tl::unexpected(book.error());
    const auto date = dateOf("on", on);
    if (!date)
        return tl::unexpected(date.error());
    const auto ruleFile = args.text("rule");
    const auto rule = ruleFile ? loadWorkloadRule(*ruleFile) : shippedWorkloadRule();
    if (!rule)
        return tl::unexpected(rule.error());
    const Workload load =
        calcWorkload(*rule, *book, *date, age ? std::optional(static_cast<int>(std::floor(*age))) : std::nullopt);
    const auto orNull = [](const auto& value) { return value ? nlohmann::json(*value) : nlohmann::json(); };
    const auto dateOrNull = [](const std::optional<Date>& d) { return d ? nlohmann::json(textOf(*d)) : nlohmann::json(); };
    nlohmann::json warnings = nlohmann::json::array();
    for (const auto& w : load.warnings)
        warnings.push_back({{"kind", wordOf(w.kind)}, {"text", w.text}});
    const nlohmann::json root{{"today", {{"count", load.count}, {"limit", orNull(load.limit)}, {"left", orNull(load.left)}}},
                              {"restUntil", dateOrNull(load.restUntil)},
                              {"nextAllowed", dateOrNull(load.nextAllowed)},
                              {"warnings", std::move(warnings)},
                              {"rule", load.rule}};
    io.out << printed(root, 2);
    return Done;
}

} // namespace kestrel::cli
