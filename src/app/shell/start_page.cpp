#include "app/shell/start_page.h"

#include "app/places/machine/plan_drawing.h"
#include "app/widgets/plain_text.h"
#include "app/words/words.h"

#include <QAction>
#include <QCoreApplication>
#include <QDateTime>
#include <QDir>
#include <QFileInfo>
#include <QListWidget>
#include <QLocale>
#include <QPushButton>
#include <QVBoxLayout>

namespace ts::app {

QString demoPath()
{
    for (const char* place : {"/../share/tall-sentry/demo/", "/../../../data/demo/"}) {
        const QFileInfo file(
            QCoreApplication::applicationDirPath() + QLatin1String(place) + QStringLiteral("larkspur_db2.sentry"));
        if (file.exists())
            return file.canonicalFilePath();
    }
    return {};
}

StartPage::StartPage(
    const Theme& theme, const Settings& settings, const ActionTable& actions, io::FileOps& files, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
    , m_settings(settings)
    , m_files(files)
    , m_loading(this)
{
    setObjectName("start");
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(48, 32, 48, 32);
    row->setSpacing(40);
    row->addWidget(ways(actions), 3);
    row->addWidget(lastOnes(), 4);
    row->addWidget(preview(), 5);
}

QWidget* StartPage::ways(const ActionTable& actions)
{
    auto* side = new QWidget(this);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(10);
    column->addWidget(plainLabel(tr("Begin"), m_theme.verdict(), side));
    const auto way = [&](const QString& text, const QString& name, auto chosen) {
        auto* button = new QPushButton(text, side);
        button->setObjectName(name);
        button->setMinimumHeight(36);
        connect(button, &QPushButton::clicked, this, chosen);
        column->addWidget(button);
    };
    for (const auto& [id, text] : {std::pair{"file.new", tr("A new machine, from patterns")},
             {"machine.take_in", tr("A panel that exists, typed in")}, {"file.open", tr("A file ...")}}) {
        QAction* action = actions.action(QLatin1String(id));
        way(text + QStringLiteral("   ") + action->shortcut().toString(QKeySequence::NativeText),
            QStringLiteral("start.") + QLatin1String(id), [action] { action->trigger(); });
    }
    if (const QString demo = demoPath(); !demo.isEmpty()) {
        way(tr("The demo: a debarker of Larkspur Sawmill"), QStringLiteral("start.demo"),
            [this, demo] { emit fileWanted(demo); });
        way(tr("Practise on the demo: find what is hidden"), QStringLiteral("start.practice"),
            [this, demo] { emit practiceWanted(demo); });
    }
    column->addStretch(1);
    column->addWidget(plainLabel(words::word("caution.text"), m_theme.small(), side));
    return side;
}

QWidget* StartPage::lastOnes()
{
    auto* side = new QWidget(this);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(10);
    column->addWidget(plainLabel(tr("Open last"), m_theme.verdict(), side));
    m_list = new QListWidget(side);
    m_list->setObjectName("start.last");
    m_list->setAccessibleName(tr("Files that were open last"));
    m_list->setFrameShape(QFrame::NoFrame);
    m_list->setWordWrap(true);
    m_list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    connect(m_list, &QListWidget::currentRowChanged, this, &StartPage::showChosen);
    connect(m_list, &QListWidget::itemActivated, this, [this] { emit fileWanted(chosen()); });
    column->addWidget(m_list, 1);
    return side;
}

QWidget* StartPage::preview()
{
    auto* side = new QWidget(this);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(10);
    m_name = plainLabel(QString(), m_theme.verdict(), side);
    m_name->setObjectName("start.name");
    m_holds = plainLabel(QString(), m_theme.body(), side);
    m_holds->setObjectName("start.holds");
    m_drawing = new PlanDrawing(m_theme, PlanDrawing::Which::Control, QStringLiteral("start.drawing"),
        tr("Control circuit of the file that is chosen"), side);
    m_open = new QPushButton(tr("Open it"), side);
    m_open->setObjectName("start.open");
    connect(m_open, &QPushButton::clicked, this, [this] { emit fileWanted(chosen()); });
    column->addWidget(m_name);
    column->addWidget(m_holds);
    column->addWidget(m_drawing, 1);
    m_find = new QPushButton(tr("It stopped: find the fault"), side);
    m_find->setObjectName("start.find");
    connect(m_find, &QPushButton::clicked, this, [this] { emit findWanted(chosen()); });
    auto* row = new QHBoxLayout;
    row->addWidget(m_open);
    row->addWidget(m_find);
    row->addStretch();
    column->addLayout(row);
    return side;
}

void StartPage::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    fill();
}

void StartPage::fill()
{
    m_list->clear();
    for (const QString& path : m_settings.openedLast) {
        const QFileInfo file(path);
        if (!file.exists())
            continue;
        auto* item = new QListWidgetItem(tr("%1\nin %2, saved %3")
                                             .arg(file.fileName(), file.dir().dirName(),
                                                 QLocale().toString(file.lastModified(), QLocale::ShortFormat)),
            m_list);
        item->setToolTip(file.absolutePath());
        item->setData(Qt::UserRole, path);
    }
    m_list->setCurrentRow(0);
    showChosen();
}

QString StartPage::chosen() const
{
    return m_list->currentItem() ? m_list->currentItem()->data(Qt::UserRole).toString() : QString();
}

/// What it holds; how it stands is worked out once it is open.
void StartPage::showChosen()
{
    const QString path = chosen();
    m_open->setVisible(!path.isEmpty());
    m_find->setVisible(!path.isEmpty());
    m_name->setText(path.isEmpty() ? tr("Nothing was open yet") : QFileInfo(path).fileName());
    m_drawing->show({});
    m_loading.drop();
    if (path.isEmpty())
        return m_holds->setText(tr("What you open or save is remembered here."));
    m_holds->setText(tr("Being read ..."));
    m_loading.run([path = path.toStdString(), &files = m_files](
                      std::stop_token) -> std::optional<Expected<DossierFile>> { return io::loadDossier(path, files); },
        [this](const std::shared_ptr<const Expected<DossierFile>>& file) { showFile(*file); });
}

void StartPage::showFile(const Expected<DossierFile>& file)
{
    if (!file)
        return m_holds->setText(words::sentence(file.error()));
    const Dossier& d = file->dossier;
    if (!d.machine.name.empty())
        m_name->setText(QString::fromStdString(d.machine.name));
    m_holds->setText(tr("%1 devices, %2 wires, %3 functions, %4 scenarios. Checked when it is open.")
                         .arg(d.circuit.devices.size())
                         .arg(d.circuit.wires.size())
                         .arg(d.functions.size())
                         .arg(d.scenarios.size()));
    m_drawing->show(d.circuit);
}

} // namespace ts::app
