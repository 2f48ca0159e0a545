#include "cli/run.h"

#include "cli/verbs.h"

namespace kestrel::cli {

namespace {

const std::vector<Verb>& verbs()
{
    static const std::vector<Verb> all{
        {"film info", "film info FILE", "what a film holds, as JSON", filmInfo},
        {"film frame", "film frame FILE --index N --out F.png", "exactly that frame, upright", filmFrame},
        {"film times", "film times FILE", "index,seconds of every frame as CSV", filmTimes},
        {"film check", "film check FILE [--pack ID|FILE] [--view side] [--capture-rate R]",
         "what this film can show: speed, size, light, shake, and which key positions and readings", filmCheck},
        {"film guide", "film guide --pack ID|FILE [--view side] --out PAGE.html", "how to film it next time", filmGuide},
        {"simulate",
         "simulate --skill ID [--variant V] [--fault ID[=amount]]... [--school ID] [--view side] [--fps 240] [--size 1280x720]\n"
         "           [--hand right] [--height M] [--age N] [--seed 1] [--truth-only] --out DIR | simulate --list",
         "a made-up repetition: clip.mp4 and truth.json", simulate},
        {"radar", "radar [--port N] [--speed M/S] [--every S] [--count N]",
         "a simulated radar gun on a pseudo-terminal and a port of this machine", radarGun},
        {"read", "read --pack ID|FILE --marking M.json [--other-side M2.json] [--school ID] [--age N]",
         "every measure with its uncertainty and verdict", read},
        {"review",
         "review --pack ID|FILE --marking M.json... [--other-side M2.json...] [--school ID] [--age N] [--tasks 1] [--not-yet "
         "FAULT]... [--pain REGION]... [--last R.json]",
         "strengths, faults and the one thing to change; where there is pain, to stop and see a licensed clinician", review},
        {"mark",
         "mark FILM --skill ID --view V [--hand right] [--target T] [--capture-rate R] [--height M] [--age N] "
         "[--player X,Y[,W,H]] [--quick|--thorough] --out M.json",
         "marks of the body on every picture, and the key positions, made by the program", mark},
        {"ground", "ground --marking M.json --from POINT --to POINT",
         "how far two points lie apart on the ground, by four or more places of the court whose distances the marking's scene "
         "gives; a point is X,Y or LANDMARK@FRAME",
         ground},
        {"follow", "follow FILE --marking M.json --landmark NAME --out M2.json",
         "one point followed through the film, from where it was marked by hand", follow},
        {"positions", "positions --pack ID|FILE --marking M.json [--out M2.json]",
         "key positions found by the pack's detectors on a marking with every frame marked; the program's own marks are calmed "
         "first",
         positions},
        {"packs list", "packs list", "the skill packs there are", packsList},
        {"packs describe", "packs describe ID", "a pack as a page to read, Markdown", packsDescribe},
        {"packs check", "packs check FILE", "every mistake in a pack, with its place", packsCheck},
        {"report", "report --review R.json [--film FILE]... --out PAGE.pdf|.html",
         "the page for the player; several films in the order in which the review names them", report},
        {"sheet",
         "sheet --pack ID|FILE --film FILE... --marking M.json... [--readings] [--blur-faces] --out SHEET.pdf|.png|.html",
         "the key positions side by side, cut out at one scale; a row a film", sheet},
        {"checklist", "checklist --pack ID|FILE --review R.json [--film FILE] --out C.pdf|.png|.html",
         "the points of the movement: right, work on it, not seen on this film", checklist},
        {"walk",
         "walk --pack ID|FILE --film FILE... --marking M.json... --review R.json [--script W.json] [--captions "
         "burnt|track|none]\n"
         "       [--full-size] [--blur-faces] --out W.mp4|.webm [--srt W.srt]",
         "the talk through the film, stop by stop, as a film; proposed from the review where there is no script", walk},
        {"compare", "compare --pack ID|FILE --marking A.json --other B.json [--at KEYPOSITION]",
         "two repetitions: every measure that both show, with what noise explains, and the tempo of each phase", compare},
        {"change", "change --pack ID|FILE --before A1.json A2.json... --after B1.json B2.json... [--one-thing MEASURE]",
         "two days of several repetitions: what has changed for real, and how many more would tell", change},
        {"plan",
         "plan --review R.json --pack ID|FILE --start DATE --days mon,wed,sat [--weeks N] [--minutes N] [--kit WORD,...] "
         "[--space\n"
         "       indoors|garden|court] [--age N] [--player NAME] [--book B.json] [--not-on DATE,...] [--previous P.json [--today "
         "DATE]]\n       --out P.json|.ics|.pdf|.png|.html",
         "the days of practice with their drills, and the day to film again; rest days of the book are kept", plan},
        {"workload", "workload --book B.json --on DATE [--age N] [--rule W.json]",
         "how many pitches are left on a day, until when to rest, and what to look at; your league's current rule decides",
         workload},
        {"match score", "match score --log M.json", "what follows from a match's rallies: games, server, game and match point",
         matchScore},
        {"match tally", "match tally --log M.json [--other N.json]",
         "points won by stroke, serve and score with their intervals, the mix of serves, what to train next; beside another "
         "match",
         matchTally},
        {"match page", "match page --log M.json --out P.pdf|.png|.html", "the match on one side of A4", matchPage},
        {"match find", "match find FILE", "rallies on a film, told from its pauses by what moves", matchFind},
        {"match simulate", "match simulate [--rallies 12] [--seed N] --out FILM.mp4",
         "a made-up match on film; its truth goes to standard output as a log", matchSimulate},
        {"sum", "sum list | sum NAME [--VARIABLE VALUE]... [--air none] [--ball ID] [--temperature C] [--altitude M]",
         "a sum about flight, time or film, with its range, what it assumes, and what people say put to the test", sum},
        {"demo", "demo [--scenario FILE] --out DIR", "a library of made-up athletes in a new folder", demoLibrary},
    };
    return all;
}

void printHelp(std::ostream& out)
{
    out << "kestrel-cli: the work of Jolly Kestrel without a window.\n\n";
    for (const auto& v : verbs())
        out << "  " << v.usage << "\n      " << v.meaning << "\n";
    out << "\nResults go to standard output, messages to standard error. Exit 0 done, 2 bad input, 3 done in part.\n";
}

const Verb* findVerb(const Words& words)
{
    for (const auto& v : verbs()) {
        const auto space = v.words.find(' ');
        const bool fits = space == std::string::npos ? !words.empty() && words[0] == v.words
                                                     : words.size() > 1 && words[0] + " " + words[1] == v.words;
        if (fits)
            return &v;
    }
    return nullptr;
}

} // namespace

int run(const Words& words, std::ostream& out, std::ostream& err)
{
    if (words.empty() || words[0] == "help" || words[0] == "--help") {
        printHelp(words.empty() ? err : out);
        return words.empty() ? BadInput : Done;
    }
    if (words[0] == "--version") {
        out << "kestrel-cli " KESTREL_VERSION "\n";
        return Done;
    }
    const Verb* verb = findVerb(words);
    if (!verb) {
        err << "There is no verb \"" << words[0] << "\"; see \"kestrel-cli help\".\n";
        return BadInput;
    }
    const auto own = words.begin() + (verb->words.find(' ') == std::string::npos ? 1 : 2);
    const VerbResult result = [&]() -> VerbResult {
        try {
            return verb->run({own, words.end()}, {out, err});
        } catch (const std::bad_alloc&) {
            return fail(ErrorCode::BadArgument, "This needs more memory than the computer has free; nothing was written.");
        }
    }();
    if (!result) {
        err << result.error().text() << "\n";
        return BadInput;
    }
    out.flush();
    if (!out) {
        err << "The result could not be written to standard output.\n";
        return BadInput;
    }
    return *result;
}

} // namespace kestrel::cli
