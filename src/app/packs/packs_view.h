#pragma once

#include "app/workspace/workspace.h"

#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QTabBar>
#include <QVBoxLayout>

namespace kestrel::app {

/// The skill packs: what they say, and the coach's own versions of them. A shipped pack is never changed; "Make it mine"
/// copies it into the library, where bands, wording, schools and drills are edited in forms. Every change is checked as it
/// is typed; what is not sound is said beside the field and not stored.
class PacksView : public QWidget {
    Q_OBJECT
public:
    explicit PacksView(Workspace&, QWidget* parent = nullptr);

    void choose(const std::string& pack);
    /// Writes the pack with all its drills into one file.
    Expected<void> exportTo(const QString& file) const;
    /// Takes a pack into the library. Errors: those of loadPack.
    Expected<void> importFrom(const QString& file);

signals:
    void message(const QString& text);

private:
    enum class Section { Measures, Faults, Schools, Drills };

    void refresh();
    void refreshItems();
    void nameItems();
    void rebuildForm();
    void addField(const QString& label, const std::string& pointer, int lines = 1);
    void addDrillNumbers(const std::string& pointer);
    nlohmann::json holderOf(const std::string& pointer) const;
    void addNumber(QHBoxLayout* row, const QString& label, const std::string& pointer);
    void addBands(const std::string& pointer);
    void addSchoolButtons(const std::string& pointer);
    QWidget* bandRow(const std::string& pointer, const nlohmann::json& band);
    /// The pack as it would be with the value; null removes the member.
    nlohmann::json with(const std::string& pointer, const nlohmann::json& value) const;
    /// Says whether the value would be sound, beside the form.
    bool check(const std::string& pointer, const nlohmann::json& value);
    void store(const std::string& pointer, const nlohmann::json& value);
    void storeWhole(const nlohmann::json& root);
    const Pack* pack() const { return m_workspace.findPack(m_id); }
    bool isOwn() const { return m_workspace.isOwnPack(m_id); }

    Workspace& m_workspace;
    std::string m_id;
    nlohmann::json m_root; ///< what the file holds
    QListWidget* m_packs;
    QPushButton *m_mine, *m_shipped, *m_export;
    QLabel *m_head, *m_caution, *m_wrong;
    QTabBar* m_sections;
    QListWidget* m_items;
    QVBoxLayout* m_formPlace;
    QWidget* m_form = nullptr;
    QVBoxLayout* m_rows = nullptr;
    int m_formNumber = 0;
    bool m_isTyping = false; ///< what is being stored came from a field that stays
};

} // namespace kestrel::app
