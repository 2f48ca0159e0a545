#include "app/bench/one_thing_card.h"

#include "app/shell/labels.h"
#include "app/shell/plain_text.h"
#include "app/shell/theme.h"
#include "report/page.h"

#include <QPainter>
#include <QVBoxLayout>
#include <algorithm>

namespace kestrel::app {

namespace {

void setTone(QLabel* label, const QColor& colour, int pixels, int weight)
{
    label->setStyleSheet(QStringLiteral("color:%1; font-size:%2px; font-weight:%3;").arg(colour.name()).arg(pixels).arg(weight));
}

} // namespace

OneThingCard::OneThingCard(Bench& bench, QWidget* parent) : QFrame(parent), m_bench(bench)
{
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(18, 12, 14, 12);
    layout->setSpacing(5);
    auto* top = new QHBoxLayout;
    m_head = new QLabel(tr("The one thing"), this);
    m_head->setObjectName(QStringLiteral("oneThingHead"));
    m_show = new QToolButton(this);
    m_show->setText(tr("show it"));
    m_show->setProperty("flat", true);
    m_show->setToolTip(tr("Go to the key position and draw the reading on the film"));
    top->addWidget(m_head);
    top->addStretch();
    m_notYet = new QToolButton(this);
    m_notYet->setObjectName(QStringLiteral("notYetTaught"));
    m_notYet->setText(tr("not yet taught"));
    m_notYet->setProperty("flat", true);
    m_notYet->setToolTip(
        tr("You have not taught this player that yet: it waits as “next”, and the next most important thing comes up"));
    top->addWidget(m_notYet);
    top->addWidget(m_show);
    layout->addLayout(top);
    m_count = addLabel(layout, this, "dayCount");
    m_since = addLabel(layout, this, "sinceLastPage");
    m_cue = addLabel(layout, this, "cue");
    m_why = addLabel(layout, this, "why");
    m_caution = addLabel(layout, this, "caution");
    m_drill = addLabel(layout, this, "drill");
    m_also = addLabel(layout, this, "also");
    m_next = addLabel(layout, this, "next");
    PlainText::setFormatted(m_next);
    m_good = addLabel(layout, this, "good");
    m_remarks = addLabel(layout, this, "remarks");
    connect(m_show, &QToolButton::clicked, &bench, [this] {
        const auto& review = m_bench.review.review();
        for (const auto& f : review.faults)
            if (review.oneThing && f.fault == review.oneThing->fault && !f.measures.empty() &&
                m_bench.review.selectedReading() != f.measures.front())
                m_bench.review.selectReading(f.measures.front());
    });
    connect(m_notYet, &QToolButton::clicked, &bench, [this] {
        if (const auto& thing = m_bench.review.review().oneThing)
            m_bench.marks.setTaught(std::string(thing->fault), false);
    });
    connect(m_next, &QLabel::linkActivated, &bench,
            [this](const QString& fault) { m_bench.marks.setTaught(fault.toStdString(), true); });
    connect(&bench.review, &ReviewModel::reviewChanged, this, &OneThingCard::refresh);
    connect(&bench.followUp, &FollowUpModel::changed, this, &OneThingCard::refresh);
    connect(&Theme::instance(), &Theme::changed, this, &OneThingCard::applyTones);
    applyTones();
    refresh();
}

void OneThingCard::applyTones()
{
    const auto& t = colours();
    setTone(m_head, t.chestnut, 12, 600);
    setTone(m_count, t.chestnut, 12, 400);
    setTone(m_since, t.slate, 12, 600);
    setTone(m_cue, t.ink, 17, 600);
    setTone(m_why, t.ink, 12, 400);
    setTone(m_caution, t.alert, 12, 600);
    setTone(m_drill, t.slate, 12, 600);
    setTone(m_also, t.ink, 12, 400);
    setTone(m_next, t.ink, 12, 400);
    setTone(m_good, t.ink, 12, 400);
    setTone(m_remarks, t.muted, 11, 400);
    update();
}

/// "3 repetitions on 3 clips"
QString OneThingCard::countOfDay() const
{
    const int repetitions = m_bench.review.repetitionsOfDay(), clips = m_bench.review.clipsOfDay();
    const QString many = tr("%1 repetitions").arg(repetitions);
    return clips > 1 ? tr("%1 on %2 clips").arg(many).arg(clips) : many;
}

void OneThingCard::refresh()
{
    const Review& review = m_bench.review.review();
    const Pack* pack = m_bench.context.pack();
    QString severity, cue, why, caution, drillLine, also, next, good;
    const int counted = m_bench.review.repetitionsOfDay();
    if (!review.stop.empty() && pack) {
        cue = tr("Stop for today.");
        caution = QString::fromStdString(review.stop);
        if (m_bench.context.day().pain != review.pain)
            caution += tr(" It is in the book: note under Plan, Workload when a clinician has cleared it.");
    } else if (review.oneThing && pack) {
        const OneThing& thing = *review.oneThing;
        const auto voice = report::voiceFor(review.athlete.age);
        const auto quoted = [voice](const Cue& c) {
            return QStringLiteral("“") + QString::fromStdString(report::inVoice(c, voice)) + QStringLiteral("”");
        };
        cue = quoted(thing.cue);
        QStringList more;
        for (const auto& task : review.alsoNow)
            more << quoted(task.cue);
        if (!more.isEmpty())
            also = tr("Then: %1").arg(more.join(QLatin1Char(' ')));
        why = QString::fromStdString(thing.why);
        severity = QString::fromStdString(std::string(plainWordsOf(thing.severity)));
        if (const Drill* d = thing.drills.empty() ? nullptr : pack->findDrill(thing.drills.front()))
            drillLine = tr("Drill: %1, %2").arg(QString::fromStdString(d->name).toLower(), QString::fromStdString(d->dose));
    } else if (pack) {
        const bool anyRead =
            std::any_of(review.readings.begin(), review.readings.end(), [](const Reading& r) { return hasValue(r.verdict); });
        cue = anyRead ? tr("Nothing is clearly off.") : tr("Nothing read yet.");
        why = anyRead ? tr("Leave it alone, and film more repetitions.")
                      : tr("Place key positions and mark the body; the cue follows from the readings.");
    } else {
        cue = tr("No clip on the bench.");
    }
    if (review.stop.empty()) {
        QStringList cautions; // of every called fault, whichever was chosen
        for (const auto& c : review.cautions)
            if (const QString said = QString::fromStdString(c.text); !cautions.contains(said))
                cautions << said;
        caution = cautions.join(QLatin1Char(' '));
    }
    QStringList waiting; // what the coach put off can be taken back; what comes with age cannot
    for (const auto& id : review.next)
        if (const Fault* f = pack ? pack->findFault(id) : nullptr) {
            const QString name = QString::fromStdString(f->name).toHtmlEscaped();
            waiting << (m_bench.marks.isTaught(id)
                            ? name
                            : tr("%1 (<a href=\"%2\">taught now</a>)").arg(name, QString::fromStdString(id)));
        }
    if (!waiting.isEmpty())
        next = tr("Next, not yet taught: %1").arg(waiting.join(QStringLiteral("; ")));
    QStringList strengths;
    for (std::size_t i = 0; i < review.strengths.size() && i < 2; ++i)
        strengths << QString::fromStdString(review.strengths[i].text);
    if (!strengths.isEmpty())
        good = tr("Good already: %1").arg(strengths.join(QLatin1Char(' ')));
    // the first is said, the rest is a hover away: the card stays a card
    QStringList remarks;
    const auto& events = m_bench.context.marking().events;
    if (const auto proposed =
            std::count_if(events.begin(), events.end(), [](const Event& e) { return e.source != Source::Coach; }))
        remarks << (proposed == 1
                        ? tr("Rests on a key position the program proposed: look at it before you say it.")
                        : tr("Rests on %1 key positions the program proposed: look at them before you say it.").arg(proposed));
    for (const auto& r : review.remarks)
        remarks << QString::fromStdString(r.text);
    const QString said = remarks.isEmpty()     ? QString()
                         : remarks.size() == 1 ? remarks.front()
                                               : tr("%1 (%2 more)").arg(remarks.front(), QString::number(remarks.size() - 1));
    m_remarks->setToolTip(remarks.join(QStringLiteral("\n\n")));
    QString since;
    m_since->setToolTip({});
    if (const auto& f = m_bench.followUp.followUp(); f && pack && review.stop.empty()) {
        const Fault* fault = pack->findFault(f->fault);
        since = tr("Since the last page (%1): %2")
                    .arg(QString::fromStdString(fault ? fault->name : f->fault).toLower(),
                         QString::fromStdString(std::string(plainWordsOf(f->step))));
        m_since->setToolTip(QString::fromStdString(f->reason));
    }
    const std::pair<QLabel*, QString> lines[] = {{m_since, since},     {m_cue, cue},         {m_why, why},
                                                 {m_caution, caution}, {m_drill, drillLine}, {m_also, also},
                                                 {m_next, next},       {m_good, good},       {m_remarks, said}};
    for (const auto& [label, line] : lines) {
        label->setText(line);
        label->setVisible(!line.isEmpty());
    }
    QStringList line;
    if (counted > 1)
        line << tr("of %1").arg(countOfDay());
    if (!severity.isEmpty())
        line << severity;
    m_count->setText(line.join(QStringLiteral(" · ")));
    m_count->setVisible(!line.isEmpty());
    m_show->setVisible(review.oneThing.has_value());
    m_notYet->setVisible(review.oneThing.has_value());
    update();
}

void OneThingCard::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(colours().chestnutPale);
    painter.drawRoundedRect(rect(), 4, 4);
    painter.fillRect(QRect(0, 0, 5, height()), colours().chestnut);
}

} // namespace kestrel::app
