#include "look/fonts.h"

#include "core/pack/pack_folder.h"

#include <QFontDatabase>

namespace kestrel::look {

void loadFonts()
{
    static const bool loaded = [] {
        const QString folder = QString::fromStdString(shippedFolder("assets")) + QStringLiteral("/fonts/");
        for (const auto* file : {"Inter-Regular.otf", "Inter-SemiBold.otf", "Inter-Italic.otf"})
            QFontDatabase::addApplicationFont(folder + QLatin1String(file));
        return true;
    }();
    (void)loaded;
}

QFont font(double pixels, QFont::Weight weight)
{
    loadFonts();
    QFont f(QStringLiteral("Inter"));
    f.setPixelSize(std::max(1, static_cast<int>(pixels + 0.5)));
    f.setWeight(weight);
    return f;
}

} // namespace kestrel::look
