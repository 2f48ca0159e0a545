#include "report/page_output.h"
#include "report/page_words.h"
#include "report/paper.h"

#include <algorithm>

namespace kestrel::report {

namespace {

constexpr double kWidth = 210, kHeight = 297, kMargin = 14, kGutter = 6; // millimetres

/// Lays the page out in millimetres from top to bottom.
class PagePainter {
public:
    PagePainter(QPainter& painter, const QRectF& a4, const Page& page) : m_paper(painter, a4, kUpright), m_page(page) {}

    bool paint()
    {
        paintHead();
        paintStrengths();
        paintTask();
        return paintFoot();
    }

private:
    static QString text(const std::string& s) { return QString::fromStdString(s); }
    double inner() const { return kWidth - 2 * kMargin; }

    double write(const QString& s, const QRectF& box, double size, const QColor& colour, QFont::Weight weight = QFont::Normal,
                 bool dry = false)
    {
        return m_paper.write(s, box, size, colour, weight, dry);
    }
    /// Writes below the last thing, and moves on.
    void line(const QString& s, double size, const QColor& colour, QFont::Weight weight = QFont::Normal, double left = kMargin,
              double width = -1)
    {
        m_y += write(s, QRectF(left, m_y, width < 0 ? inner() : width, kHeight), size, colour, weight);
    }

    void paintHead()
    {
        m_y = kMargin;
        line(text(m_page.title), 7.2, m_paper.colours().ink, QFont::DemiBold);
        line(text(m_page.subtitle), 3.5, m_paper.colours().muted);
        m_y += 3;
        m_paper.fill(QRectF(kMargin, m_y, inner(), 0.25), m_paper.colours().rule);
        m_y += 4;
    }

    void paintStill(const Still& still, QRectF box) { m_paper.picture(still.image, box); }

    void paintStrengths()
    {
        if (m_page.strengths.empty())
            return;
        line(QString::fromUtf8(kAlreadyGood), 4.2, m_paper.colours().slate, QFont::DemiBold);
        m_y += 2;
        const double width = (inner() - kGutter) / 2, pictureWidth = 40, pictureHeight = 30;
        double lowest = m_y;
        double x = kMargin;
        for (const auto& s : m_page.strengths) {
            paintStill(s.still, QRectF(x, m_y, pictureWidth, pictureHeight));
            const double textLeft = s.still.image.isNull() ? x : x + pictureWidth + 3;
            const double textWidth = x + width - textLeft;
            const double used =
                write(text(s.text), QRectF(textLeft, m_y, textWidth, pictureHeight), 3.9, m_paper.colours().ink, QFont::DemiBold);
            const double note = write(text(s.still.caption), QRectF(textLeft, m_y + used + 1, textWidth, pictureHeight), 2.9,
                                      m_paper.colours().muted);
            lowest = std::max({lowest, m_y + used + 1 + note, s.still.image.isNull() ? m_y : m_y + pictureHeight});
            x += width + kGutter;
        }
        m_y = lowest + 6;
    }

    void paintTask()
    {
        if (!m_page.since.empty()) {
            line(QString::fromUtf8(kSinceLastPage), 4.2, m_paper.colours().slate, QFont::DemiBold);
            line(text(m_page.since), 3.6, m_paper.colours().ink);
            m_y += 4;
        }
        if (!m_page.stop.empty()) {
            line(text(m_page.stop), 5, m_paper.colours().alert, QFont::DemiBold);
            m_y += 4;
            return;
        }
        if (!m_page.task) {
            line(text(m_page.noTask), 5, m_paper.colours().ink, QFont::DemiBold);
            m_y += 4;
            return;
        }
        const PageTask& task = *m_page.task;
        const double top = m_y, left = kMargin + 6, width = inner() - 12;
        m_y += 5;
        paintTaskText(task, left, width, true); // first to know how tall the card is
        const double bottom = m_y + 4;
        m_paper.fill(QRectF(kMargin, top, inner(), bottom - top), QColor(0xF6, 0xE9, 0xE0));
        m_paper.fill(QRectF(kMargin, top, 1.4, bottom - top), m_paper.colours().chestnut);
        m_y = top + 5;
        paintTaskText(task, left, width, false);
        m_y = bottom + 5;
    }

    void paintTaskText(const PageTask& task, double left, double width, bool dry)
    {
        const auto put = [&](const QString& s, double size, const QColor& colour, QFont::Weight weight, double x, double w) {
            m_y += write(s, QRectF(x, m_y, w, kHeight), size, colour, weight, dry);
        };
        put(text(headOf(task)), 3.6, m_paper.colours().chestnut, QFont::DemiBold, left, width);
        m_y += 1;
        put(QStringLiteral("“") + text(task.cue) + QStringLiteral("”"), 7.4, m_paper.colours().ink, QFont::DemiBold, left, width);
        m_y += 3;
        const double pictureTop = m_y, pictureWidth = 88, pictureHeight = 66;
        const bool hasPicture = !task.still.image.isNull();
        if (hasPicture && !dry)
            paintStill(task.still, QRectF(left, m_y, pictureWidth, pictureHeight));
        const double x = hasPicture ? left + pictureWidth + 5 : left, w = left + width - x;
        put(text(task.because), 3.6, m_paper.colours().ink, QFont::Normal, x, w);
        m_y += 3;
        if (!task.caution.empty()) {
            put(text(task.caution), 3.3, m_paper.colours().alert, QFont::DemiBold, x, w);
            m_y += 3;
        }
        if (hasPicture)
            m_y = std::max(m_y, pictureTop + pictureHeight + 4);
        if (task.drill.id.empty())
            return;
        const Drill& d = task.drill;
        put(text(practiceOf(d)), 4.6, m_paper.colours().slate, QFont::DemiBold, left, width);
        put(text(d.doseWords()), 4, m_paper.colours().ink, QFont::DemiBold, left, width);
        m_y += 1;
        put(text(needsOf(d)), 3.4, m_paper.colours().muted, QFont::Normal, left, width);
        put(text(d.setup), 3.6, m_paper.colours().ink, QFont::Normal, left, width);
        int n = 1;
        for (const auto& step : d.steps)
            put(QStringLiteral("%1.  ").arg(n++) + text(step), 3.6, m_paper.colours().ink, QFont::Normal, left + 2, width - 2);
        m_y += 1;
        put(text(feelOf(d)), 3.4, m_paper.colours().ink, QFont::Normal, left, width);
        if (!task.otherDrill.empty())
            put(text(task.otherDrill), 3.3, m_paper.colours().muted, QFont::Normal, left, width);
    }

    /// What is said in small letters below everything else. \param dry  only how tall it is
    double smallWords(bool dry)
    {
        const double top = m_y;
        const auto put = [&](const QString& s, const QColor& colour) {
            m_y += write(s, QRectF(kMargin, m_y, inner(), kHeight), 3.3, colour, QFont::Normal, dry);
        };
        const auto& ink = m_paper.colours().ink;
        const auto& muted = m_paper.colours().muted;
        for (const auto& also : m_page.also)
            put(text(thenOf(also)), ink);
        if (!m_page.later.empty())
            put(text(laterOf(m_page)), muted);
        put(text(m_page.honesty), muted);
        for (const auto& note : m_page.notes)
            put(text(note), muted);
        m_y += 2;
        put(text(filmNextOf(m_page)), ink);
        const double height = m_y - top;
        if (dry)
            m_y = top;
        return height;
    }

    /// The picture that the coach put on the page, as large as the rest of it leaves room. Whether there was any.
    bool paintExtra(double room)
    {
        constexpr double kMost = 62, kLeast = 25, kGap = 4;
        const Still& extra = m_page.extra;
        if (extra.image.isNull())
            return true;
        if (room < kLeast + kGap)
            return false;
        const double shape = static_cast<double>(extra.image.width()) / extra.image.height();
        const double width = std::min(inner() * 0.6, std::min(room - kGap, kMost) * shape), height = width / shape;
        paintStill(extra, QRectF(kMargin, m_y, width, height));
        const double left = kMargin + width + 4;
        write(text(extra.caption), QRectF(left, m_y, kWidth - kMargin - left, height), 3.6, m_paper.colours().ink);
        m_y += height + kGap;
        return true;
    }

    /// Whether there was room for all of it.
    bool paintFoot()
    {
        // the caution stands at the very foot, whatever is above it
        const double height =
            write(text(m_page.caution), QRectF(kMargin, 0, inner(), kHeight), 3.2, m_paper.colours().ink, QFont::DemiBold, true);
        const double top = kHeight - kMargin - height;
        const bool hasRoom = paintExtra(top - 3.5 - m_y - smallWords(true));
        smallWords(false);
        m_paper.fill(QRectF(kMargin, top - 2.5, inner(), 0.25), m_paper.colours().rule);
        write(text(m_page.caution), QRectF(kMargin, top, inner(), kHeight), 3.2, m_paper.colours().ink, QFont::DemiBold);
        return hasRoom && m_y < top - 3.5;
    }

    Paper m_paper;
    const Page& m_page;
    double m_y = 0;
};

} // namespace

bool paintPage(QPainter& painter, const Page& page, const QRectF& a4)
{
    return PagePainter(painter, a4, page).paint();
}

} // namespace kestrel::report
