#include "app/workspace/library_keeper.h"

#include "store/library_copies.h"

#include <QDate>
#include <QLocale>

namespace kestrel::app {

namespace {

constexpr int kTurnMs = 2000, kTurnsToSign = 7;

} // namespace

LibraryKeeper::LibraryKeeper(std::shared_ptr<store::LibraryLock> lock, Workspace& workspace, QObject* parent)
    : QObject(parent), m_lock(std::move(lock)), m_workspace(workspace)
{
    connect(&m_turn, &QTimer::timeout, this, &LibraryKeeper::onTurn);
    m_turn.start(kTurnMs);
    m_seen = m_workspace.library().state().value_or(0);
    if (m_lock->isHeld())
        lookAfterFile();
}

QString LibraryKeeper::whoHasIt() const
{
    const auto holder = m_lock->holder();
    if (!holder)
        return {};
    const QString who =
        holder->isHere ? tr("Another window") : tr("The computer %1").arg(QString::fromStdString(holder->computer));
    const QString since =
        holder->since.isValid() ? tr(" since %1").arg(QLocale().toString(holder->since, QLocale::ShortFormat)) : QString();
    return tr("%1 has this library open%2. You can look; nothing can be changed here until it is closed.").arg(who, since);
}

void LibraryKeeper::onTurn()
{
    if (m_lock->isHeld()) {
        if (++m_turns % kTurnsToSign != 0 || m_workspace.library().isReadOnly() || m_lock->renew())
            return;
        if (auto look = store::Library::open(m_workspace.library().folder(), true)) {
            m_workspace.setLibrary(std::move(*look)); // at once: nothing more may be stored
            lookAgain();
        }
        emit message(tr("Another computer has taken over this library while this one slept: you can only look."), true);
    } else if (m_lock->tryAgain()) {
        takeOver();
    } else if (const auto now = m_workspace.library().state(); now && *now != m_seen) {
        if (m_workspace.library().isFromAfar()) {
            lookAgain();
        } else {
            m_seen = *now;
            emit m_workspace.changed({});
        }
    }
}

void LibraryKeeper::lookAgain()
{
    m_work.stop();
    m_work = Background::run(
        this, [folder = m_workspace.library().folder()](std::stop_token) { return store::Snapshot::take(folder); },
        [this](const Expected<std::shared_ptr<const store::Snapshot>>& snapshot) {
            if (!snapshot || !m_workspace.library().isReadOnly())
                return; // the other is writing, and a later turn tries again; or it has been taken over since
            if (auto look = store::Library::openFromAfar(m_workspace.library().folder(), *snapshot)) {
                m_seen = (*snapshot)->state();
                m_workspace.setLibrary(std::move(*look));
            }
        });
}

void LibraryKeeper::takeOver()
{
    auto library = store::Library::open(m_workspace.library().folder());
    if (!library) {
        emit m_workspace.failed(library.error());
        return;
    }
    m_workspace.setLibrary(std::move(*library));
    emit message(tr("The library is free now: you can change it here."), false);
    lookAfterFile();
}

void LibraryKeeper::lookAfterFile()
{
    m_work = Background::run(
        this,
        [openLibrary = m_workspace.library().again(true),
         folder = m_workspace.library().folder()](std::stop_token) -> Expected<void> {
            auto library = openLibrary();
            if (!library)
                return tl::unexpected(library.error());
            if (const auto sound = library->check(); !sound) // no copy of what is broken
                return sound;
            if (const auto all = library->athletes().all(); all && all->empty())
                return {}; // there is nothing to keep yet
            return store::makeDailyCopy(folder, QDate::currentDate());
        },
        [this](const Expected<void>& done) {
            if (!done)
                emit m_workspace.failed(done.error());
        });
}

} // namespace kestrel::app
