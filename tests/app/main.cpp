#include "support/test_main.h"

#include "app/shell/theme.h"

#include <QApplication>

int main(int argc, char** argv)
{
    QApplication application(argc, argv);
    QApplication::setStyle(QStringLiteral("Fusion"));
    kestrel::app::Theme::instance().setDark(false);
    return kestrel::test::runAll(argc, argv);
}
