#include "app/flight/sums_view.h"

#include "app/shell/file_dialogs.h"
#include "app/shell/labels.h"
#include "app/shell/number_field.h"
#include "app/shell/theme.h"
#include "app/shell/words.h"
#include "look/film_image.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QMenu>
#include <QPainter>
#include <QScrollArea>
#include <QStyle>
#include <QStyleOptionSlider>
#include <QToolButton>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace kestrel::app {

namespace {

/// Digits after the point: about a thousandth of the slider's way.
int digitsOf(const SumVariable& v)
{
    return std::clamp(static_cast<int>(std::ceil(-std::log10((v.high - v.low) / 1000))), 0, 3);
}

} // namespace

void MarkedSlider::setMark(std::optional<double> share)
{
    m_mark = share;
    update();
}

void MarkedSlider::paintEvent(QPaintEvent* event)
{
    QSlider::paintEvent(event);
    if (!m_mark)
        return;
    QStyleOptionSlider option;
    initStyleOption(&option);
    const int handle = style()->pixelMetric(QStyle::PM_SliderLength, &option, this);
    const double x = handle / 2.0 + *m_mark * (width() - handle);
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(colours().eyeRing);
    painter.drawPolygon(QPolygonF{{x - 4, 0}, {x + 4, 0}, {x, 6}});
}

SumsView::SumsView(Workspace& workspace, Bench& bench, QWidget* parent)
    : QWidget(parent), m_workspace(workspace), m_bench(bench), m_answer(fail(ErrorCode::NotFound, ""))
{
    m_places = workspace.valueOr(shippedPlaces());
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 12, 16, 12);
    auto* top = new QHBoxLayout;
    auto* head = new QLabel(tr("Sums"), this);
    head->setProperty("head", true);
    m_question = new QLabel(this);
    m_question->setObjectName(QStringLiteral("sumQuestion"));
    m_question->setProperty("muted", true);
    m_question->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    auto* out = new QToolButton(this);
    out->setObjectName(QStringLiteral("sumOut"));
    out->setText(tr("Take along"));
    out->setToolTip(tr("The drawing with its answer: as a file, on the page, or in the talk of what is on the Bench"));
    out->setPopupMode(QToolButton::InstantPopup);
    out->setMenu(makeWaysOut(out));
    top->addWidget(head);
    top->addSpacing(12);
    top->addWidget(m_question, 1);
    top->addWidget(out);
    layout->addLayout(top);
    auto* row = new QHBoxLayout;
    row->setSpacing(16);
    m_cards = new QListWidget(this);
    m_cards->setObjectName(QStringLiteral("sumCards"));
    m_cards->setFixedWidth(200);
    m_cards->setAccessibleName(tr("Sums"));
    for (const auto& c : sumCards()) {
        auto* item = new QListWidgetItem(text(c.title), m_cards);
        item->setData(Qt::UserRole, text(c.id));
        item->setToolTip(text(c.question));
    }
    row->addWidget(m_cards);
    auto* middle = new QVBoxLayout;
    m_picture = new SumPictureView(this);
    middle->addWidget(m_picture, 1);
    m_sentence = addLabel(middle, this, "sumSentence");
    m_caution = addLabel(middle, this, "sumCaution");
    m_claim = addLabel(middle, this, "sumClaim");
    m_assumes = addLabel(middle, this, "sumAssumes");
    m_assumes->setProperty("muted", true);
    row->addLayout(middle, 1);
    auto* right = new QVBoxLayout;
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFixedWidth(330);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_form = new QWidget(scroll);
    new QVBoxLayout(m_form);
    scroll->setWidget(m_form);
    right->addWidget(scroll, 1);
    m_place = new QComboBox(this);
    m_place->setObjectName(QStringLiteral("sumPlace"));
    m_place->setToolTip(tr("Distance, height and ball of an age"));
    m_ball = new QComboBox(this);
    m_ball->setObjectName(QStringLiteral("sumBall"));
    m_ball->setToolTip(tr("Mass, size and drag of the ball"));
    for (const auto& b : workspace.valueOr(shippedBalls()))
        m_ball->addItem(text(b.name), text(b.id));
    m_air = new QCheckBox(tr("with air"), this);
    m_air->setObjectName(QStringLiteral("sumAir"));
    m_air->setChecked(true);
    m_take = new QPushButton(tr("Take the Bench's numbers"), this);
    m_take->setObjectName(QStringLiteral("takeFromBench"));
    m_missing = addLabel(right, this, "sumMissing");
    m_missing->setProperty("muted", true);
    right->addWidget(m_take);
    right->addWidget(m_place);
    right->addWidget(m_ball);
    right->addWidget(m_air);
    m_results = addLabel(right, this, "sumResults");
    row->addLayout(right);
    layout->addLayout(row, 1);
    connect(m_cards, &QListWidget::currentItemChanged, this, [this](QListWidgetItem* item) {
        if (item && !m_refreshing)
            open(item->data(Qt::UserRole).toString().toStdString());
    });
    connect(m_ball, &QComboBox::activated, this, &SumsView::work);
    connect(m_air, &QCheckBox::toggled, this, &SumsView::work);
    connect(m_take, &QPushButton::clicked, this, &SumsView::takeFromBench);
    connect(m_place, &QComboBox::activated, this, [this] {
        const auto n = m_place->currentData().toInt();
        if (n < 0)
            return;
        const PlayPlace& place = m_places[static_cast<std::size_t>(n)];
        m_ball->setCurrentIndex(std::max(0, m_ball->findData(text(place.ball))));
        const std::pair<const char*, double> taken[] = {{"distance", place.distance},
                                                        {"ring-height", place.height},
                                                        {"net-distance", place.distance},
                                                        {"net-height", place.height},
                                                        {"line", place.line}};
        if (m_card->find("mound"))
            set("mound", place.mound); // flat ground as well
        for (const auto& [variable, value] : taken)
            if (value > 0 && m_card->find(variable))
                set(variable, value);
        work();
    });
    connect(&bench.review, &ReviewModel::reviewChanged, this, [this] {
        if (isVisible())
            refreshBench();
    });
    connect(&Theme::instance(), &Theme::changed, this, &SumsView::work);
    open(sumCards().front().id);
}

QMenu* SumsView::makeWaysOut(QWidget* parent)
{
    auto* menu = new QMenu(parent);
    menu->addAction(tr("Save the picture…"), this, [this] {
        const QString file = askWhereToSave(this, FilePurpose::Documents, tr("Save the picture"),
                                            text(m_card->title) + QStringLiteral(".png"), tr("Pictures (*.png)"));
        if (!file.isEmpty())
            savePicture(file);
    });
    using Wanted = void (SumsView::*)(const QImage&, const std::string&);
    for (const auto& [words, wanted] : {std::pair<QString, Wanted>(tr("Put it on the page"), &SumsView::pageWanted),
                                        std::pair<QString, Wanted>(tr("Put it into the walk-through"), &SumsView::talkWanted)})
        menu->addAction(words, this, [this, wanted = wanted] {
            if (m_answer)
                emit(this->*wanted)(picture(), m_answer->sentence);
            else
                emit message(tr("There is no answer to show."));
        });
    return menu;
}

void SumsView::open(const std::string& id)
{
    const SumCard* card = findSumCard(id);
    if (!card)
        return;
    m_card = card;
    m_values.clear();
    m_sigmas.clear();
    for (const auto& v : card->variables)
        m_values[v.id] = v.usual;
    m_refreshing = true;
    for (int n = 0; n < m_cards->count(); ++n)
        if (m_cards->item(n)->data(Qt::UserRole).toString() == text(id))
            m_cards->setCurrentRow(n);
    m_question->setText(text(card->question));
    m_ball->setVisible(!card->ball.empty());
    m_air->setVisible(!card->ball.empty());
    m_ball->setCurrentIndex(std::max(0, m_ball->findData(text(card->ball))));
    m_place->clear();
    m_place->addItem(tr("a place by age…"), -1);
    const bool isHoop = card->find("ring-height") != nullptr, isCourt = card->find("net-distance") != nullptr;
    for (std::size_t n = 0; n < m_places.size(); ++n) {
        const bool isPitch = m_places[n].sport == "pitching" || m_places[n].sport == "windmill";
        if (isHoop    ? m_places[n].sport == "hoop"
            : isCourt ? m_places[n].sport == "court"
                      : isPitch && card->ball == "baseball" && card->find("distance") && card->id != "ball_speed")
            m_place->addItem(text(m_places[n].name), static_cast<int>(n));
    }
    m_place->setVisible(m_place->count() > 1);
    m_refreshing = false;
    makeRows();
    refreshBench();
    work();
}

void SumsView::makeRows()
{
    auto* column = qobject_cast<QVBoxLayout*>(m_form->layout());
    while (QLayoutItem* item = column->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    m_rows.clear();
    for (const auto& v : m_card->variables) {
        auto* box = new QWidget(m_form);
        auto* grid = new QGridLayout(box);
        grid->setContentsMargins(0, 0, 6, 4);
        grid->setSpacing(3);
        auto* name = new QLabel(text(v.words), box);
        name->setWordWrap(true);
        auto* number = new NumberField(box);
        number->setObjectName(QStringLiteral("number-") + text(v.id));
        number->setRange(v.low, v.high);
        number->setDecimals(digitsOf(v));
        number->setSingleStep((v.high - v.low) / 100);
        number->setSuffix(v.unit.empty() || v.unit.size() > 8 ? QString() : QLatin1Char(' ') + text(v.unit));
        number->setToolTip(text(v.unit));
        number->setAccessibleName(text(v.words));
        auto* slider = new MarkedSlider(box);
        slider->setObjectName(QStringLiteral("slider-") + text(v.id));
        slider->setAccessibleName(text(v.words));
        auto* from = new QLabel(box);
        from->setProperty("muted", true);
        from->setWordWrap(true);
        from->hide();
        grid->addWidget(name, 0, 0);
        grid->addWidget(number, 0, 1);
        grid->addWidget(slider, 1, 0, 1, 2);
        grid->addWidget(from, 2, 0, 1, 2);
        grid->setColumnStretch(0, 1);
        column->addWidget(box);
        m_rows.push_back({v.id, slider, number, from});
        connect(slider, &QSlider::valueChanged, this, [this, v](int step) {
            if (!m_refreshing)
                set(v.id, v.low + (v.high - v.low) * step / MarkedSlider::kSteps);
        });
        connect(number, &QDoubleSpinBox::valueChanged, this, [this, v](double value) {
            if (!m_refreshing)
                set(v.id, value);
        });
        set(v.id, m_values[v.id]);
    }
    column->addStretch();
}

void SumsView::set(const std::string& variable, double value)
{
    const SumVariable* v = m_card->find(variable);
    if (!v)
        return;
    m_values[variable] = value;
    m_sigmas.erase(variable);
    m_refreshing = true;
    for (const auto& row : m_rows)
        if (row.variable == variable) {
            row.slider->setValue(static_cast<int>(std::lround(MarkedSlider::kSteps * (value - v->low) / (v->high - v->low))));
            row.number->setValue(value);
        }
    m_refreshing = false;
    work();
}

void SumsView::showEvent(QShowEvent*)
{
    // from a reading to its card
    if (m_bench.context.isOpen())
        if (const std::string card = cardOf(m_bench.context.day().skill, m_bench.review.selectedReading());
            !card.empty() && card != m_card->id)
            open(card);
    refreshBench();
}

void SumsView::refreshBench()
{
    m_fromBench = benchValues(*m_card, m_bench);
    for (const auto& row : m_rows) {
        const SumVariable& v = *m_card->find(row.variable);
        const auto it = m_fromBench.find(row.variable);
        row.slider->setMark(it == m_fromBench.end() ? std::nullopt
                                                    : std::optional((it->second.value - v.low) / (v.high - v.low)));
        row.from->setVisible(it != m_fromBench.end());
        if (it != m_fromBench.end())
            row.from->setText(tr("film: %1 ± %2, %3")
                                  .arg(it->second.value, 0, 'f', digitsOf(v))
                                  .arg(it->second.sigma, 0, 'f', digitsOf(v))
                                  .arg(it->second.from));
    }
    m_take->setVisible(!m_fromBench.empty());
    m_missing->setText(missingValues(*m_card, m_bench));
    m_missing->setVisible(!m_missing->text().isEmpty());
}

void SumsView::takeFromBench()
{
    for (const auto& [variable, value] : m_fromBench)
        set(variable, value.value);
    for (const auto& [variable, value] : m_fromBench)
        if (value.sigma > 0)
            m_sigmas[variable] = value.sigma;
    work();
}

void SumsView::work()
{
    if (!m_card || m_rows.size() != m_card->variables.size())
        return;
    SumInput input;
    input.values = m_values;
    input.sigmas = m_sigmas;
    input.hasAir = m_air->isChecked();
    if (!m_card->ball.empty())
        if (auto ball = findBall(m_ball->currentData().toString().toStdString()))
            input.ball = std::move(*ball);
    m_answer = workOut(*m_card, input);
    m_sentence->setStyleSheet(
        QStringLiteral("font-size:17px;font-weight:600;color:%1").arg((m_answer ? colours().ink : colours().alert).name()));
    if (!m_answer) {
        m_sentence->setText(text(m_answer.error().message));
        m_picture->setPicture({}, m_sentence->text());
        for (auto* label : {m_results, m_claim, m_assumes, m_caution})
            label->setText({});
        return;
    }
    const SumAnswer& a = *m_answer;
    m_sentence->setText(text(a.sentence));
    m_picture->setPicture(a.picture, m_sentence->text());
    QStringList results;
    for (const auto& r : a.results)
        results << tr("%1: %2 (%3 to %4) %5")
                       .arg(text(r.words))
                       .arg(r.value, 0, 'g', 3)
                       .arg(r.low, 0, 'g', 3)
                       .arg(r.high, 0, 'g', 3)
                       .arg(text(r.unit));
    m_results->setText(results.join(QLatin1Char('\n')));
    m_claim->setText(
        tr("“%1” %2. %3").arg(text(a.claim.text), text(std::string(plainWordsOf(a.claim.verdict))), text(a.claim.why)));
    m_claim->setStyleSheet(QStringLiteral("color:%1").arg(colours().chestnut.name()));
    m_caution->setText(text(a.caution));
    m_caution->setVisible(!a.caution.empty());
    m_caution->setStyleSheet(QStringLiteral("color:%1;font-weight:600").arg(colours().alert.name()));
    QStringList assumes;
    for (const auto& s : a.assumes)
        assumes << text(s);
    m_assumes->setText(tr("Assumes: %1.").arg(assumes.join(QStringLiteral("; "))));
}

QImage SumsView::picture() const
{
    if (!m_answer)
        return {};
    const look::Palette paper = look::lightPalette(); // it is printed, whatever the window looks like
    constexpr int kWidth = 1200, kHeight = 800, kWords = 170;
    QImage image(kWidth, kHeight, QImage::Format_RGB32);
    image.fill(paper.panel);
    QPainter painter(&image);
    painter.setRenderHint(QPainter::TextAntialiasing);
    constexpr double kLarger = 2; // than on the screen: it is looked at small, on a page
    painter.save();
    painter.scale(kLarger, kLarger);
    SumPictureView::paint(painter, QRectF(20 / kLarger, 20 / kLarger, (kWidth - 40) / kLarger, (kHeight - kWords - 40) / kLarger),
                          m_answer->picture, paper);
    painter.restore();
    QFont font = painter.font();
    font.setPixelSize(26);
    font.setWeight(QFont::DemiBold);
    painter.setFont(font);
    painter.setPen(paper.ink);
    painter.drawText(QRectF(30, kHeight - kWords, kWidth - 60, 70), Qt::TextWordWrap, text(m_answer->sentence));
    font.setPixelSize(18);
    font.setWeight(QFont::Normal);
    painter.setFont(font);
    painter.setPen(paper.muted);
    painter.drawText(QRectF(30, kHeight - kWords + 75, kWidth - 60, 90), Qt::TextWordWrap,
                     m_caution->text() + QLatin1Char(' ') + m_assumes->text());
    return image;
}

void SumsView::savePicture(const QString& file)
{
    const QImage image = picture();
    if (image.isNull())
        return emit message(tr("There is no answer to save."));
    if (const auto saved = look::saveImage(image, file.toStdString()); !saved)
        return emit m_workspace.failed(saved.error());
    emit message(tr("Saved %1").arg(file));
}

} // namespace kestrel::app
