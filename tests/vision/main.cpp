#include "support/test_main.h"

#include <QGuiApplication>

int main(int argc, char** argv)
{
    QGuiApplication application(argc, argv);
    return kestrel::test::runAll(argc, argv);
}
