#include "app/packs/packs_view.h"

#include "app/shell/file_dialogs.h"

#include "app/shell/theme.h"
#include "core/base/json_reader.h"
#include "core/pack/pack_folder.h"

#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QScrollArea>

namespace kestrel::app {

namespace {

using nlohmann::json;

constexpr const char* kSectionKeys[] = {"measures", "faults", "schools", "drills"};

QString toQt(const std::string& s)
{
    return QString::fromStdString(s);
}

QString fieldName(const json::json_pointer& p)
{
    return QStringLiteral("field_") + toQt(p.back());
}

/// As a coach types it: 1.45, and nothing for an open end.
QString numberText(const json& object, const char* key)
{
    const auto it = object.find(key);
    return it != object.end() && it->is_number() ? QString::number(it->get<double>()) : QString();
}

/// A text as it is, a list of them with commas between.
std::string textOf(const json& value)
{
    if (value.is_string())
        return value.get<std::string>();
    std::string all;
    if (value.is_array())
        for (const auto& word : value)
            all += (all.empty() ? "" : ", ") + (word.is_string() ? word.get<std::string>() : word.dump());
    return all;
}

/// Null for nothing typed; a text that is no number stays a text, so that the check says what is wrong.
json numberOf(const QString& text)
{
    const QString plain = text.trimmed();
    if (plain.isEmpty())
        return nullptr;
    bool ok = false;
    const double value =
        QString(plain).replace(QChar(0x2212), QLatin1Char('-')).replace(QLatin1Char(','), QLatin1Char('.')).toDouble(&ok);
    return ok ? json(value) : json(plain.toStdString());
}

/// A multi-line field that reports like a line does.
class TextBox : public QPlainTextEdit {
public:
    using QPlainTextEdit::QPlainTextEdit;
    std::function<void()> left;

protected:
    void focusOutEvent(QFocusEvent* event) override
    {
        QPlainTextEdit::focusOutEvent(event);
        if (left)
            left();
    }
};

} // namespace

PacksView::PacksView(Workspace& workspace, QWidget* parent) : QWidget(parent), m_workspace(workspace)
{
    auto* columns = new QHBoxLayout(this);
    columns->setContentsMargins(24, 20, 24, 16);
    columns->setSpacing(20);

    auto* left = new QVBoxLayout;
    auto* title = new QLabel(tr("Packs"), this);
    title->setProperty("head", true);
    left->addWidget(title);
    m_packs = new QListWidget(this);
    m_packs->setObjectName(QStringLiteral("packs"));
    left->addWidget(m_packs, 1);
    auto* import = new QPushButton(tr("Import …"), this);
    import->setToolTip(tr("Take a pack from a file into this library"));
    left->addWidget(import);
    auto* leftSide = new QWidget(this);
    leftSide->setLayout(left);
    left->setContentsMargins(0, 0, 0, 0);
    leftSide->setFixedWidth(220);
    m_packs->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    columns->addWidget(leftSide);

    auto* right = new QVBoxLayout;
    right->setSpacing(8);
    auto* top = new QHBoxLayout;
    m_head = new QLabel(this);
    m_head->setProperty("head", true);
    m_head->setObjectName(QStringLiteral("packHead"));
    m_mine = new QPushButton(tr("Make it mine"), this);
    m_mine->setObjectName(QStringLiteral("makeItMine"));
    m_mine->setProperty("primary", true);
    m_mine->setToolTip(tr("Copy this pack into your library, where you can change it"));
    m_shipped = new QPushButton(tr("Back to the shipped one"), this);
    m_shipped->setObjectName(QStringLiteral("backToShipped"));
    m_export = new QPushButton(tr("Export …"), this);
    m_export->setToolTip(tr("Write this pack with all its drills into one file"));
    top->addWidget(m_head, 1);
    top->addWidget(m_mine);
    top->addWidget(m_shipped);
    top->addWidget(m_export);
    right->addLayout(top);
    m_caution = new QLabel(this);
    m_caution->setWordWrap(true);
    m_caution->setProperty("muted", true);
    right->addWidget(m_caution);
    m_sections = new QTabBar(this);
    m_sections->setObjectName(QStringLiteral("sections"));
    m_sections->setExpanding(false);
    for (const auto& name : {tr("Measures"), tr("Faults and cues"), tr("Schools"), tr("Drills")})
        m_sections->addTab(name);
    right->addWidget(m_sections);
    auto* work = new QHBoxLayout;
    work->setSpacing(16);
    m_items = new QListWidget(this);
    m_items->setObjectName(QStringLiteral("items"));
    m_items->setFixedWidth(230);
    m_items->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    work->addWidget(m_items);
    auto* formColumn = new QVBoxLayout;
    m_formPlace = new QVBoxLayout;
    formColumn->addLayout(m_formPlace, 1);
    m_wrong = new QLabel(this);
    m_wrong->setObjectName(QStringLiteral("packWrong"));
    m_wrong->setWordWrap(true);
    m_wrong->setMinimumHeight(34);
    formColumn->addWidget(m_wrong);
    work->addLayout(formColumn, 1);
    right->addLayout(work, 1);
    columns->addLayout(right, 1);

    connect(m_packs, &QListWidget::currentItemChanged, this, [this](QListWidgetItem* item) {
        if (item)
            m_id = item->data(Qt::UserRole).toString().toStdString();
        refresh();
    });
    connect(m_sections, &QTabBar::currentChanged, this, &PacksView::refreshItems);
    connect(m_items, &QListWidget::currentRowChanged, this, &PacksView::rebuildForm);
    connect(m_mine, &QPushButton::clicked, this, [this] {
        if (const Pack* p = pack())
            if (const auto own = selfContainedPack(p->file))
                m_workspace.editPack(tr("make a pack mine"), m_id, *own);
    });
    connect(m_shipped, &QPushButton::clicked, this, [this] { m_workspace.editPack(tr("give up my pack"), m_id, std::nullopt); });
    connect(m_export, &QPushButton::clicked, this, [this] {
        const QString file = askWhereToSave(this, FilePurpose::Packs, tr("Export the pack"), toQt(m_id) + QStringLiteral(".json"),
                                            tr("Skill pack (*.json)"));
        if (file.isEmpty())
            return;
        if (const auto done = exportTo(file); !done)
            emit m_workspace.failed(done.error());
        else
            emit message(tr("Written: %1").arg(file));
    });
    connect(import, &QPushButton::clicked, this, [this] {
        const QString file = askForFile(this, FilePurpose::Packs, tr("Import a pack"), tr("Skill pack (*.json)"));
        if (file.isEmpty())
            return;
        if (const auto done = importFrom(file); !done)
            emit m_workspace.failed(done.error());
    });
    connect(&m_workspace, &Workspace::packsChanged, this, &PacksView::refresh);
    if (!m_workspace.packs().empty())
        m_id = m_workspace.packs().front().id;
    refresh();
}

void PacksView::choose(const std::string& id)
{
    m_id = id;
    refresh();
}

Expected<void> PacksView::exportTo(const QString& file) const
{
    const Pack* p = pack();
    if (!p)
        return fail(ErrorCode::NotFound, "No pack is chosen.");
    return selfContainedPack(p->file).and_then([&](const json& root) { return saveText(file.toStdString(), printed(root, 1)); });
}

Expected<void> PacksView::importFrom(const QString& file)
{
    const auto root = selfContainedPack(file.toStdString());
    if (!root)
        return tl::unexpected(root.error());
    m_id = root->at("id").get<std::string>();
    m_workspace.editPack(tr("import a pack"), m_id, *root);
    return {};
}

void PacksView::refresh()
{
    const QSignalBlocker quiet(m_packs);
    m_packs->clear();
    for (const auto& p : m_workspace.packs()) {
        auto* item =
            new QListWidgetItem(m_workspace.isOwnPack(p.id) ? tr("%1 (yours)").arg(toQt(p.name)) : toQt(p.name), m_packs);
        item->setData(Qt::UserRole, toQt(p.id));
        if (p.id == m_id)
            m_packs->setCurrentItem(item);
    }
    const Pack* p = pack();
    m_head->setText(p ? toQt(p->name) : tr("No pack"));
    m_caution->setText(p ? toQt(p->caution) : QString());
    m_mine->setVisible(p && !isOwn());
    m_shipped->setVisible(p && isOwn());
    m_export->setEnabled(p);
    const auto root = p ? loadJson(p->file) : Expected<json>(json());
    const json before = std::move(m_root);
    m_root = root ? *root : json();
    if (before == m_root)
        return;
    if (m_isTyping) // the form shows it already, and the next field has the keyboard
        nameItems();
    else
        refreshItems();
}

void PacksView::nameItems()
{
    const QSignalBlocker quiet(m_items);
    const int row = m_items->currentRow();
    m_items->clear();
    const auto list = m_root.find(kSectionKeys[m_sections->currentIndex()]);
    if (list != m_root.end())
        for (const auto& item : *list) {
            const Drill* shared = item.is_string() && pack() ? pack()->findDrill(item.get<std::string>()) : nullptr;
            m_items->addItem(toQt(shared ? shared->name : item.is_object() ? item.value("name", "") : std::string()));
        }
    m_items->setCurrentRow(std::clamp(row, 0, std::max(0, m_items->count() - 1)));
}

void PacksView::refreshItems()
{
    nameItems();
    rebuildForm();
}

void PacksView::rebuildForm()
{
    if (m_form) { // a field of it may be what asks for the new one
        m_form->hide();
        m_form->deleteLater();
    }
    ++m_formNumber;
    m_wrong->clear();
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_form = scroll;
    auto* inside = new QWidget;
    m_rows = new QVBoxLayout(inside);
    m_rows->setSpacing(6);
    scroll->setWidget(inside);
    m_formPlace->addWidget(scroll);
    const int row = m_items->currentRow();
    if (row < 0 || m_root.is_null())
        return;
    const auto section = static_cast<Section>(m_sections->currentIndex());
    const std::string at = std::string("/") + kSectionKeys[m_sections->currentIndex()] + "/" + std::to_string(row);
    if (!isOwn()) {
        auto* note = new QLabel(tr("This is the shipped pack. Make it mine to change it; the shipped one stays."), inside);
        note->setProperty("muted", true);
        note->setWordWrap(true);
        m_rows->addWidget(note);
    }
    switch (section) {
    case Section::Measures:
        addField(tr("Name"), at + "/name");
        addField(tr("What exactly"), at + "/technical", 2);
        addBands(at);
        addField(tr("Praise"), at + "/praise", 2);
        addField(tr("Doubt about the band"), at + "/doubt", 2);
        break;
    case Section::Faults:
        addField(tr("Name"), at + "/name");
        addField(tr("Why it matters"), at + "/why", 2);
        addField(tr("Cue for a child, 12 words at most"), at + "/cue/child");
        addField(tr("Cue for a teenager"), at + "/cue/teen");
        addField(tr("Cue for an adult"), at + "/cue/adult");
        addField(tr("Caution"), at + "/caution", 2);
        break;
    case Section::Schools:
        addField(tr("Name"), at + "/name");
        addField(tr("What it teaches"), at + "/note", 4);
        addSchoolButtons(at);
        break;
    case Section::Drills:
        for (const auto& [label, key, lines] : {std::tuple{tr("Name"), "name", 1},
                                                {tr("Purpose"), "purpose", 2},
                                                {tr("Kit, with commas between; none needed: empty"), "kit", 1},
                                                {tr("Space"), "space", 1},
                                                {tr("Set-up"), "setup", 2},
                                                {tr("Sets and repetitions"), "dose", 1},
                                                {tr("What to feel"), "feel", 2},
                                                {tr("Common mistakes"), "mistakes", 2},
                                                {tr("Easier"), "easier", 1},
                                                {tr("Harder"), "harder", 1},
                                                {tr("Caution"), "caution", 2}})
            addField(label, at + "/" + key, lines);
        addDrillNumbers(at);
        break;
    }
    m_rows->addStretch();
}

/// What the place is part of; a drill that several packs share is looked up.
json PacksView::holderOf(const std::string& pointer) const
{
    const auto item = json::json_pointer(pointer).parent_pointer();
    if (m_root.contains(item) && m_root.at(item).is_string() && pack())
        if (const Drill* shared = pack()->findDrill(m_root.at(item).get<std::string>()))
            return toJson(*shared);
    return m_root.value(item, json::object());
}

/// A text, or several with commas between them; an empty text is taken out where the pack may do without it.
void PacksView::addField(const QString& label, const std::string& pointer, int lines)
{
    auto* caption = new QLabel(label);
    caption->setProperty("muted", true);
    m_rows->addWidget(caption);
    const json::json_pointer p(pointer);
    const json holder = holderOf(pointer), given = holder.is_object() ? holder.value(p.back(), json()) : json();
    const QString text = toQt(textOf(given));
    const auto valueOf = [isList = given.is_array() || p.back() == "kit"](const QString& typed) {
        if (!isList)
            return typed.trimmed().isEmpty() ? json(nullptr) : json(typed.trimmed().toStdString());
        json list = json::array();
        for (const auto& word : typed.split(QLatin1Char(','), Qt::SkipEmptyParts))
            list.push_back(word.trimmed().toStdString());
        return list;
    };
    if (lines == 1) {
        auto* edit = new QLineEdit(text);
        edit->setObjectName(fieldName(p));
        edit->setReadOnly(!isOwn());
        connect(edit, &QLineEdit::textEdited, this, [=, this](const QString& typed) { check(pointer, valueOf(typed)); });
        connect(edit, &QLineEdit::editingFinished, this, [=, this] {
            if (edit->isModified())
                store(pointer, valueOf(edit->text()));
        });
        m_rows->addWidget(edit);
        return;
    }
    auto* box = new TextBox(text);
    box->setObjectName(fieldName(p));
    box->setReadOnly(!isOwn());
    box->setTabChangesFocus(true);
    box->setFixedHeight(lines * 19 + 14);
    connect(box, &QPlainTextEdit::textChanged, this, [=, this] { check(pointer, valueOf(box->toPlainText())); });
    box->left = [=, this, form = m_formNumber] {
        if (form == m_formNumber && box->document()->isModified())
            store(pointer, valueOf(box->toPlainText()));
    };
    m_rows->addWidget(box);
}

void PacksView::addDrillNumbers(const std::string& pointer)
{
    auto* row = new QHBoxLayout;
    addNumber(row, tr("Days a week"), pointer + "/daysAWeek");
    addNumber(row, tr("Minutes"), pointer + "/minutes");
    row->addStretch();
    m_rows->addLayout(row);
}

void PacksView::addNumber(QHBoxLayout* row, const QString& label, const std::string& pointer)
{
    const json::json_pointer p(pointer);
    auto* caption = new QLabel(label);
    caption->setProperty("muted", true);
    auto* edit = new QLineEdit(numberText(holderOf(pointer), p.back().c_str()));
    edit->setObjectName(fieldName(p));
    edit->setFixedWidth(62);
    edit->setReadOnly(!isOwn());
    connect(edit, &QLineEdit::textEdited, this, [=, this](const QString& typed) { check(pointer, numberOf(typed)); });
    connect(edit, &QLineEdit::editingFinished, this, [=, this] {
        if (edit->isModified())
            store(pointer, numberOf(edit->text()));
    });
    row->addWidget(caption);
    row->addWidget(edit);
}

void PacksView::addBands(const std::string& pointer)
{
    const json& measure = m_root.at(json::json_pointer(pointer));
    const auto bands = measure.find("bands");
    if (bands == measure.end()) {
        auto* note = new QLabel(tr("Reported only: there is no band to hold it against."));
        note->setProperty("muted", true);
        m_rows->addWidget(note);
        return;
    }
    const Measure* m = pack()->findMeasure(measure.value("id", ""));
    auto* caption = new QLabel(tr("Bands, in %1; an empty end is open")
                                   .arg(QString::fromUtf8(wordOf(m->unit).data()).replace(QLatin1Char('_'), QLatin1Char(' '))));
    caption->setProperty("muted", true);
    m_rows->addWidget(caption);
    for (std::size_t i = 0; i < bands->size(); ++i)
        m_rows->addWidget(bandRow(pointer + "/bands/" + std::to_string(i), (*bands)[i]));
    auto* row = new QHBoxLayout;
    addNumber(row, tr("Near is up to"), pointer + "/margin");
    auto* beyond = new QLabel(tr("beyond the band"));
    beyond->setProperty("muted", true);
    row->addWidget(beyond);
    row->addStretch();
    if (isOwn()) {
        auto* add = new QPushButton(tr("Add a band"));
        add->setObjectName(QStringLiteral("addBand"));
        add->setToolTip(tr("For a school or an age that has none yet"));
        connect(add, &QPushButton::clicked, this, [this, pointer] {
            // the first age group that has no band yet
            const std::pair<int, int> groups[] = {{5, 9}, {10, 13}, {14, 18}, {19, 99}};
            json list = m_root.at(json::json_pointer(pointer + "/bands"));
            for (const auto& [from, to] : groups) {
                json band = list.front();
                band.erase("school");
                band["ages"] = {from, to};
                if (std::none_of(list.begin(), list.end(),
                                 [&](const json& b) { return b.value("ages", json()) == band["ages"]; })) {
                    list.push_back(band);
                    return store(pointer + "/bands", list);
                }
            }
            m_wrong->setText(tr("Every age group has a band of its own already."));
        });
        row->addWidget(add);
    }
    auto* holder = new QWidget;
    holder->setLayout(row);
    row->setContentsMargins(0, 0, 0, 0);
    m_rows->addWidget(holder);
}

QWidget* PacksView::bandRow(const std::string& pointer, const json& band)
{
    auto* holder = new QWidget;
    auto* row = new QHBoxLayout(holder);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    addNumber(row, tr("from"), pointer + "/low");
    addNumber(row, tr("to"), pointer + "/high");
    auto* school = new QComboBox;
    school->setObjectName(QStringLiteral("field_school"));
    school->addItem(tr("every school"), QString());
    for (const auto& s : pack()->schools)
        school->addItem(toQt(s.name), toQt(s.id));
    school->setCurrentIndex(std::max(0, school->findData(toQt(band.value("school", "")))));
    school->setEnabled(isOwn());
    connect(school, &QComboBox::activated, this, [=, this] {
        const QString id = school->currentData().toString();
        store(pointer + "/school", id.isEmpty() ? json(nullptr) : json(id.toStdString()));
    });
    row->addWidget(school);
    auto* ages = new QComboBox;
    ages->setObjectName(QStringLiteral("field_ages"));
    ages->addItem(tr("every age"), QString());
    const json given = band.value("ages", json());
    const std::pair<QString, json> groups[] = {
        {tr("under 10"), {5, 9}}, {tr("10 to 13"), {10, 13}}, {tr("14 to 18"), {14, 18}}, {tr("adult"), {19, 99}}};
    for (const auto& [text, range] : groups)
        ages->addItem(text, toQt(range.dump()));
    if (given.is_array() && given.size() == 2) {
        if (ages->findData(toQt(given.dump())) < 0)
            ages->addItem(tr("%1 to %2").arg(given[0].get<double>()).arg(given[1].get<double>()), toQt(given.dump()));
        ages->setCurrentIndex(ages->findData(toQt(given.dump())));
    }
    ages->setEnabled(isOwn());
    connect(ages, &QComboBox::activated, this, [=, this] {
        const QString range = ages->currentData().toString();
        store(pointer + "/ages", range.isEmpty() ? json(nullptr) : json::parse(range.toStdString()));
    });
    row->addWidget(ages);
    if (const auto variants = band.value("variants", json::array()); !variants.empty()) {
        auto* only = new QLabel(tr("only %1").arg(toQt(textOf(variants))));
        only->setTextFormat(Qt::PlainText);
        only->setProperty("muted", true);
        row->addWidget(only);
    }
    auto* evidence = new QComboBox;
    evidence->setToolTip(tr("What the band rests on"));
    for (auto* box : {school, ages, evidence}) { // names of schools may be long: the row keeps its width
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(7);
        box->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    }
    for (const Evidence e : {Evidence::Geometry, Evidence::Papers, Evidence::Taught})
        evidence->addItem(QString::fromUtf8(plainWordsOf(e).data()), QString::fromUtf8(letterOf(e).data()));
    evidence->setCurrentIndex(evidence->findData(toQt(band.value("evidence", "T"))));
    evidence->setEnabled(isOwn());
    connect(evidence, &QComboBox::activated, this,
            [=, this] { store(pointer + "/evidence", evidence->currentData().toString().toStdString()); });
    row->addWidget(evidence, 1);
    return holder;
}

void PacksView::addSchoolButtons(const std::string& pointer)
{
    if (!isOwn())
        return;
    auto* add = new QPushButton(tr("Add a school"));
    add->setObjectName(QStringLiteral("addSchool"));
    connect(add, &QPushButton::clicked, this, [this] {
        json list = m_root.at("schools");
        std::string id;
        for (int n = 1; id.empty(); ++n) {
            const std::string wanted = "own-" + std::to_string(n);
            if (std::none_of(list.begin(), list.end(), [&](const json& s) { return s.value("id", "") == wanted; }))
                id = wanted;
        }
        list.push_back({{"id", id}, {"name", tr("My way").toStdString()}});
        store("/schools", list);
        m_items->setCurrentRow(m_items->count() - 1);
    });
    auto* row = new QHBoxLayout;
    row->addWidget(add);
    const std::string id = m_root.at(json::json_pointer(pointer)).value("id", "");
    if (m_root.at("schools").size() > 1) {
        auto* remove = new QPushButton(tr("Remove this school and its bands"));
        connect(remove, &QPushButton::clicked, this, [this, id] {
            json root = m_root;
            for (auto& m : root["measures"])
                if (auto bands = m.find("bands"); bands != m.end() && bands->size() > 1)
                    bands->erase(
                        std::remove_if(bands->begin(), bands->end(), [&](const json& b) { return b.value("school", "") == id; }),
                        bands->end());
            auto& schools = root["schools"];
            schools.erase(std::remove_if(schools.begin(), schools.end(), [&](const json& s) { return s.value("id", "") == id; }),
                          schools.end());
            storeWhole(root);
        });
        row->addWidget(remove);
    }
    row->addStretch();
    auto* holder = new QWidget;
    holder->setLayout(row);
    row->setContentsMargins(0, 0, 0, 0);
    m_rows->addWidget(holder);
}

json PacksView::with(const std::string& pointer, const json& value) const
{
    json root = m_root;
    const json::json_pointer p(pointer);
    if (value.is_null())
        root.at(p.parent_pointer()).erase(p.back());
    else
        root[p] = value;
    return root;
}

bool PacksView::check(const std::string& pointer, const json& value)
{
    if (!isOwn())
        return false;
    const auto problems = checkPack(with(pointer, value), pack()->file);
    m_wrong->setStyleSheet(QStringLiteral("color:%1; font-weight:600").arg(colours().alert.name()));
    m_wrong->setText(problems.empty() ? QString() : tr("Not stored yet: %1").arg(toQt(problems.front().message)));
    return problems.empty();
}

void PacksView::store(const std::string& pointer, const json& value)
{
    if (!check(pointer, value))
        return;
    m_isTyping = !value.is_array() || pointer.ends_with("/ages") || pointer.ends_with("/kit");
    storeWhole(with(pointer, value));
    m_isTyping = false;
}

void PacksView::storeWhole(const json& root)
{
    const auto problems = checkPack(root, pack()->file);
    if (problems.empty() && root != m_root)
        m_workspace.editPack(tr("edit a pack"), m_id, root);
    else if (!problems.empty())
        m_wrong->setText(tr("Not stored: %1").arg(toQt(problems.front().message)));
}

} // namespace kestrel::app
