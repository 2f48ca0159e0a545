#include "app/window/open_library.h"

#include "app/workspace/library_keeper.h"
#include "store/library_copies.h"

#include <QLocale>
#include <QMessageBox>
#include <QPushButton>

namespace kestrel::app {

namespace {

/// Whether the newest copy stands in its place now.
bool offerCopy(const std::string& folder, const Error& why)
{
    const auto copies = store::libraryCopies(folder);
    if (copies.empty())
        return false;
    QMessageBox box(QMessageBox::Warning, MainWindow::tr("The library cannot be opened"), QString::fromStdString(why.text()));
    box.setTextFormat(Qt::PlainText);
    box.setInformativeText(
        MainWindow::tr("There is a copy of %1. What was done after that day would be missing. The file as it is "
                       "now is kept beside it.")
            .arg(QLocale().toString(copies.front().date, QLocale::LongFormat)));
    auto* take = box.addButton(MainWindow::tr("Take the copy"), QMessageBox::AcceptRole);
    box.addButton(MainWindow::tr("Leave everything"), QMessageBox::RejectRole);
    box.setDefaultButton(take);
    box.exec();
    return box.clickedButton() == take && store::restoreCopy(folder, copies.front().file);
}

} // namespace

Expected<std::unique_ptr<MainWindow>> openLibrary(const std::string& folder, const std::string& shippedPacks)
{
    const auto lock = std::make_shared<store::LibraryLock>(folder);
    const auto holder = lock->holder();
    auto library =
        holder && !holder->isHere ? store::Library::openFromAfar(folder) : store::Library::open(folder, holder.has_value());
    if (!library && library.error().code == ErrorCode::Damaged && lock->isHeld() && offerCopy(folder, library.error()))
        library = store::Library::open(folder);
    if (!library)
        return tl::unexpected(library.error());
    auto window = std::make_unique<MainWindow>(std::move(*library), shippedPacks);
    auto* keeper = new LibraryKeeper(lock, window->workspace(), window.get());
    QObject::connect(keeper, &LibraryKeeper::message, window.get(), &MainWindow::tell);
    if (const QString other = keeper->whoHasIt(); !other.isEmpty())
        window->tell(other, true);
    return window;
}

} // namespace kestrel::app
