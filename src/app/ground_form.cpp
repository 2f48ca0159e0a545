#include "app/ground_form.h"

#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QLabel>
#include <QPushButton>

namespace kestrel::app {

namespace {

constexpr double kFarthest = 200; // metres: no court is as long

class GroundForm : public QFrame {
public:
    GroundForm(BenchSession& session, ImagePoint at, QWidget* parent) : QFrame(parent, Qt::Popup)
    {
        setObjectName(QStringLiteral("groundForm"));
        setProperty("card", true);
        setAttribute(Qt::WA_DeleteOnClose);
        auto* form = new QFormLayout(this);
        form->setContentsMargins(16, 14, 16, 14);
        form->addRow(new QLabel(BenchSession::tr("From any corner of the court, by its measures:"), this));
        QDoubleSpinBox* const x = addMetres(form, BenchSession::tr("Along a line"), QStringLiteral("along"));
        QDoubleSpinBox* const y = addMetres(form, BenchSession::tr("Across it"), QStringLiteral("across"));
        auto* take = new QPushButton(BenchSession::tr("Mark this place"), this);
        take->setObjectName(QStringLiteral("take"));
        take->setProperty("primary", true);
        take->setDefault(true);
        connect(take, &QPushButton::clicked, this, [this, &session, at, x, y] {
            session.addGroundMark({at, x->value(), y->value()});
            close();
        });
        form->addRow(take);
        x->setFocus();
        x->selectAll();
    }

private:
    QDoubleSpinBox* addMetres(QFormLayout* form, const QString& label, const QString& name)
    {
        auto* box = new QDoubleSpinBox(this);
        box->setObjectName(name);
        box->setRange(-kFarthest, kFarthest);
        box->setDecimals(2);
        box->setButtonSymbols(QAbstractSpinBox::NoButtons);
        box->setSuffix(BenchSession::tr(" m"));
        form->addRow(label, box);
        return box;
    }
};

} // namespace

void askForGroundPlace(BenchSession& session, ImagePoint at, QWidget* parent, QPoint beside)
{
    auto* form = new GroundForm(session, at, parent);
    form->move(beside + QPoint(12, 12));
    form->show();
}

} // namespace kestrel::app
