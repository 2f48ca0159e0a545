#include "look/fonts.h"
#include "look/palette.h"
#include "report/page_output.h"
#include "report/page_words.h"

#include <QPainter>
#include <QPainterPath>

namespace kestrel::report {

namespace {

constexpr double kWidth = 210, kHeight = 297, kMargin = 14, kGutter = 6; // millimetres

/// Lays the page out in millimetres from top to bottom.
class PagePainter {
public:
    PagePainter(QPainter& painter, const Page& page) : m_painter(painter), m_page(page) {}

    bool paint()
    {
        m_painter.setRenderHint(QPainter::Antialiasing);
        m_painter.setRenderHint(QPainter::SmoothPixmapTransform);
        m_painter.fillRect(QRectF(0, 0, kWidth, kHeight), m_palette.panel);
        paintHead();
        paintStrengths();
        paintTask();
        return paintFoot();
    }

private:
    static QString text(const std::string& s) { return QString::fromStdString(s); }
    double inner() const { return kWidth - 2 * kMargin; }

    /// Fonts are set in units of 0.1 mm: Qt rounds their sizes to whole numbers.
    double write(const QString& s, QRectF box, double size, const QColor& colour, QFont::Weight weight = QFont::Normal,
                 bool dry = false)
    {
        m_painter.save();
        m_painter.scale(0.1, 0.1);
        m_painter.setFont(look::font(size * 10, weight));
        const QRectF tenths(box.x() * 10, box.y() * 10, box.width() * 10, box.height() * 10);
        const QRectF used = m_painter.boundingRect(tenths, Qt::TextWordWrap | Qt::AlignLeft | Qt::AlignTop, s);
        if (!dry) {
            m_painter.setPen(colour);
            m_painter.drawText(tenths, Qt::TextWordWrap | Qt::AlignLeft | Qt::AlignTop, s);
        }
        m_painter.restore();
        return used.height() / 10;
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
        line(text(m_page.title), 7.2, m_palette.ink, QFont::DemiBold);
        line(text(m_page.subtitle), 3.5, m_palette.muted);
        m_y += 3;
        m_painter.fillRect(QRectF(kMargin, m_y, inner(), 0.25), m_palette.rule);
        m_y += 4;
    }

    void paintStill(const Still& still, QRectF box)
    {
        if (still.image.isNull())
            return;
        QPainterPath round;
        round.addRoundedRect(box, 1, 1);
        m_painter.save();
        m_painter.setClipPath(round);
        m_painter.drawImage(box, still.image);
        m_painter.restore();
    }

    void paintStrengths()
    {
        if (m_page.strengths.empty())
            return;
        line(QString::fromUtf8(kAlreadyGood), 4.2, m_palette.slate, QFont::DemiBold);
        m_y += 2;
        const double width = (inner() - kGutter) / 2, pictureWidth = 40, pictureHeight = 30;
        double lowest = m_y;
        double x = kMargin;
        for (const auto& s : m_page.strengths) {
            paintStill(s.still, QRectF(x, m_y, pictureWidth, pictureHeight));
            const double textLeft = s.still.image.isNull() ? x : x + pictureWidth + 3;
            const double textWidth = x + width - textLeft;
            const double used =
                write(text(s.text), QRectF(textLeft, m_y, textWidth, pictureHeight), 3.9, m_palette.ink, QFont::DemiBold);
            const double note =
                write(text(s.still.caption), QRectF(textLeft, m_y + used + 1, textWidth, pictureHeight), 2.9, m_palette.muted);
            lowest = std::max({lowest, m_y + used + 1 + note, s.still.image.isNull() ? m_y : m_y + pictureHeight});
            x += width + kGutter;
        }
        m_y = lowest + 6;
    }

    void paintTask()
    {
        if (!m_page.stop.empty()) {
            line(text(m_page.stop), 5, m_palette.alert, QFont::DemiBold);
            m_y += 4;
            return;
        }
        if (!m_page.task) {
            line(text(m_page.noTask), 5, m_palette.ink, QFont::DemiBold);
            m_y += 4;
            return;
        }
        const PageTask& task = *m_page.task;
        const double top = m_y, left = kMargin + 6, width = inner() - 12;
        m_y += 5;
        paintTaskText(task, left, width, true); // first to know how tall the card is
        const double bottom = m_y + 4;
        m_painter.fillRect(QRectF(kMargin, top, inner(), bottom - top), QColor(0xF6, 0xE9, 0xE0));
        m_painter.fillRect(QRectF(kMargin, top, 1.4, bottom - top), m_palette.chestnut);
        m_y = top + 5;
        paintTaskText(task, left, width, false);
        m_y = bottom + 5;
    }

    void paintTaskText(const PageTask& task, double left, double width, bool dry)
    {
        const auto put = [&](const QString& s, double size, const QColor& colour, QFont::Weight weight, double x, double w) {
            m_y += write(s, QRectF(x, m_y, w, kHeight), size, colour, weight, dry);
        };
        put(text(headOf(task)), 3.6, m_palette.chestnut, QFont::DemiBold, left, width);
        m_y += 1;
        put(QStringLiteral("“") + text(task.cue) + QStringLiteral("”"), 7.4, m_palette.ink, QFont::DemiBold, left, width);
        m_y += 3;
        const double pictureTop = m_y, pictureWidth = 88, pictureHeight = 66;
        const bool hasPicture = !task.still.image.isNull();
        if (hasPicture && !dry)
            paintStill(task.still, QRectF(left, m_y, pictureWidth, pictureHeight));
        const double x = hasPicture ? left + pictureWidth + 5 : left, w = left + width - x;
        put(text(task.because), 3.6, m_palette.ink, QFont::Normal, x, w);
        m_y += 3;
        if (!task.caution.empty()) {
            put(text(task.caution), 3.3, m_palette.alert, QFont::DemiBold, x, w);
            m_y += 3;
        }
        if (hasPicture)
            m_y = std::max(m_y, pictureTop + pictureHeight + 4);
        if (task.drill.id.empty())
            return;
        const Drill& d = task.drill;
        put(text(practiceOf(d)), 4.6, m_palette.slate, QFont::DemiBold, left, width);
        put(text(d.doseWords()), 4, m_palette.ink, QFont::DemiBold, left, width);
        m_y += 1;
        put(text(needsOf(d)), 3.4, m_palette.muted, QFont::Normal, left, width);
        put(text(d.setup), 3.6, m_palette.ink, QFont::Normal, left, width);
        int n = 1;
        for (const auto& step : d.steps)
            put(QStringLiteral("%1.  ").arg(n++) + text(step), 3.6, m_palette.ink, QFont::Normal, left + 2, width - 2);
        m_y += 1;
        put(text(feelOf(d)), 3.4, m_palette.ink, QFont::Normal, left, width);
        if (!task.otherDrill.empty())
            put(text(task.otherDrill), 3.3, m_palette.muted, QFont::Normal, left, width);
    }

    /// Whether there was room for it.
    bool paintFoot()
    {
        for (const auto& also : m_page.also)
            line(text(thenOf(also)), 3.3, m_palette.ink);
        if (!m_page.later.empty())
            line(text(laterOf(m_page)), 3.3, m_palette.muted);
        line(text(m_page.honesty), 3.3, m_palette.muted);
        for (const auto& note : m_page.notes)
            line(text(note), 3.3, m_palette.muted);
        m_y += 2;
        line(text(filmNextOf(m_page)), 3.3, m_palette.ink);
        // the caution stands at the very foot, whatever is above it
        const double height =
            write(text(m_page.caution), QRectF(kMargin, 0, inner(), kHeight), 3.2, m_palette.ink, QFont::DemiBold, true);
        const double top = kHeight - kMargin - height;
        m_painter.fillRect(QRectF(kMargin, top - 2.5, inner(), 0.25), m_palette.rule);
        write(text(m_page.caution), QRectF(kMargin, top, inner(), kHeight), 3.2, m_palette.ink, QFont::DemiBold);
        return m_y < top - 3.5;
    }

    QPainter& m_painter;
    const Page& m_page;
    const look::Palette m_palette = look::lightPalette();
    double m_y = 0;
};

} // namespace

bool paintPage(QPainter& painter, const Page& page, const QRectF& a4)
{
    painter.save();
    painter.translate(a4.topLeft());
    painter.scale(a4.width() / kWidth, a4.height() / kHeight);
    const bool fits = PagePainter(painter, page).paint();
    painter.restore();
    return fits;
}

} // namespace kestrel::report
