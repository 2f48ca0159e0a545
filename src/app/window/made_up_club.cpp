#include "app/window/made_up_club.h"

#include "core/pack/pack_folder.h"
#include "demo/demo_library.h"

#include <QDir>
#include <QFile>
#include <QHBoxLayout>
#include <QPushButton>
#include <QStandardPaths>
#include <QVBoxLayout>

namespace kestrel::app {

namespace {

constexpr int kSteps = 1000;

QString doneFile(const QString& folder)
{
    return QDir(folder).filePath(QStringLiteral(".complete"));
}

} // namespace

QString MadeUpClub::usualFolder()
{
    return QDir(QStandardPaths::writableLocation(QStandardPaths::AppDataLocation)).filePath(QStringLiteral("made-up-club"));
}

bool MadeUpClub::isThere(const QString& folder)
{
    return QFile::exists(doneFile(folder));
}

MadeUpClub::MadeUpClub(const QString& folder, QWidget* over) : QFrame(over), m_folder(folder)
{
    setObjectName(QStringLiteral("madeUpClub"));
    setProperty("card", true);
    setAttribute(Qt::WA_DeleteOnClose);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(24, 20, 24, 20);
    layout->setSpacing(10);
    auto* head = new QLabel(tr("The made-up club"), this);
    head->setProperty("head", true);
    layout->addWidget(head);
    m_text = new QLabel(tr("Its films are painted once, which takes a few minutes. You can go on working."), this);
    m_text->setTextFormat(Qt::PlainText);
    layout->addWidget(m_text);
    auto* row = new QHBoxLayout;
    m_bar = new QProgressBar(this);
    m_bar->setRange(0, kSteps);
    m_bar->setTextVisible(false);
    m_bar->setFixedHeight(8);
    auto* cancel = new QPushButton(tr("Cancel"), this);
    cancel->setObjectName(QStringLiteral("cancelClub"));
    connect(cancel, &QPushButton::clicked, this, &QWidget::close);
    row->addWidget(m_bar, 1);
    row->addWidget(cancel);
    layout->addLayout(row);
    setFixedWidth(520);
    adjustSize();
    move((over->width() - width()) / 2, over->height() - height() - 60);
    QFrame::show();
    raise();
    start();
}

void MadeUpClub::start()
{
    QDir(m_folder).removeRecursively(); // what an earlier try left half done; never the coach's own: the folder is the club's
    m_since.start();
    const auto tell = [alive = QPointer<MadeUpClub>(this)](const demo::Progress& p) {
        QMetaObject::invokeMethod(
            qApp,
            [alive, file = QString::fromStdString(p.file), film = p.film, films = p.films,
             share = static_cast<double>(p.picture) / std::max(1, p.pictures)] {
                if (alive)
                    alive->show(file, film, films, share);
            },
            Qt::QueuedConnection);
    };
    m_work = Background::run(
        this,
        [folder = m_folder.toStdString(), tell](std::stop_token stop) {
            return demo::makeDemoLibrary(shippedFolder("demo") + "/club.json", folder, tell, stop);
        },
        [this](const Expected<void>& made) {
            if (!made) {
                emit failed(made.error());
            } else {
                QFile done(doneFile(m_folder));
                (void)done.open(QIODevice::WriteOnly);
                emit ready(m_folder);
            }
            close();
        });
}

void MadeUpClub::show(const QString& file, int film, int films, double share)
{
    const double done = (film - 1 + share) / std::max(1, films);
    m_bar->setValue(static_cast<int>(kSteps * done));
    QString text = tr("Film %1 of %2: %3").arg(film).arg(films).arg(file);
    if (done > 0.05)
        text += tr(" · about %1 s left").arg(static_cast<int>(static_cast<double>(m_since.elapsed()) / 1000 * (1 - done) / done));
    m_text->setText(text);
}

} // namespace kestrel::app
