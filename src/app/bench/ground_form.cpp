#include "app/bench/ground_form.h"
#include "app/shell/number_field.h"

#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QLabel>
#include <QPushButton>

namespace kestrel::app {

namespace {

constexpr double kFarthest = 200; // metres: no court is as long

class GroundForm : public QFrame {
public:
    GroundForm(Bench& bench, ImagePoint at, QWidget* parent) : QFrame(parent, Qt::Popup)
    {
        setObjectName(QStringLiteral("groundForm"));
        setProperty("card", true);
        setAttribute(Qt::WA_DeleteOnClose);
        auto* form = new QFormLayout(this);
        form->setContentsMargins(16, 14, 16, 14);
        form->addRow(new QLabel(Bench::tr("From any corner of the court, by its measures:"), this));
        QDoubleSpinBox* const x = addMetres(form, Bench::tr("Along a line"), QStringLiteral("along"));
        QDoubleSpinBox* const y = addMetres(form, Bench::tr("Across it"), QStringLiteral("across"));
        auto* take = new QPushButton(Bench::tr("Mark this place"), this);
        take->setObjectName(QStringLiteral("take"));
        take->setProperty("primary", true);
        take->setDefault(true);
        connect(take, &QPushButton::clicked, this, [this, &bench, at, x, y] {
            bench.scene.addGroundMark({at, x->value(), y->value()});
            close();
        });
        form->addRow(take);
        x->setFocus();
        x->selectAll();
    }

private:
    QDoubleSpinBox* addMetres(QFormLayout* form, const QString& label, const QString& name)
    {
        auto* box = new NumberField(this);
        box->setObjectName(name);
        box->setRange(-kFarthest, kFarthest);
        box->setDecimals(2);
        box->setSuffix(Bench::tr(" m"));
        form->addRow(label, box);
        return box;
    }
};

} // namespace

void askForGroundPlace(Bench& bench, ImagePoint at, QWidget* parent, QPoint beside)
{
    auto* form = new GroundForm(bench, at, parent);
    form->move(beside + QPoint(12, 12));
    form->show();
}

} // namespace kestrel::app
