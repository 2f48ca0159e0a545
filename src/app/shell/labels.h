#pragma once

#include <QBoxLayout>
#include <QLabel>

namespace kestrel::app {

/// A label for words that wrap, below what is there.
inline QLabel* addLabel(QBoxLayout* layout, QWidget* parent, const char* name)
{
    auto* label = new QLabel(parent);
    label->setObjectName(QLatin1String(name));
    label->setWordWrap(true);
    layout->addWidget(label);
    return label;
}

} // namespace kestrel::app
