#include "app/shell/start_page.h"

#include "app/document/moment.h"
#include "app/places/machine/plan_drawing.h"
#include "app/widgets/plain_text.h"
#include "app/words/words.h"
#include "core/results/on_record.h"
#include "core/studies/working_out.h"
#include "host/process.h"

#include <QAction>
#include <QCoreApplication>
#include <QDateTime>
#include <QDir>
#include <QFileInfo>
#include <QListWidget>
#include <QLocale>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

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
    , m_trying(this)
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
    m_standing = plainLabel(QString(), m_theme.body(), side);
    m_standing->setObjectName("start.standing");
    m_drawing = new PlanDrawing(m_theme, PlanDrawing::Which::Control, QStringLiteral("start.drawing"),
        tr("Control circuit of the file that is chosen"), side);
    m_open = new QPushButton(tr("Open it"), side);
    m_open->setObjectName("start.open");
    connect(m_open, &QPushButton::clicked, this, [this] { emit fileWanted(chosen()); });
    column->addWidget(m_name);
    column->addWidget(m_holds);
    column->addWidget(m_drawing, 1);
    column->addWidget(m_standing);
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

void StartPage::hideEvent(QHideEvent* event)
{
    m_trying.drop(); // what is open is worked out by its own book
    QWidget::hideEvent(event);
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

void StartPage::showChosen()
{
    const QString path = chosen();
    m_open->setVisible(!path.isEmpty());
    m_find->setVisible(!path.isEmpty());
    m_name->setText(path.isEmpty() ? tr("Nothing was open yet") : QFileInfo(path).fileName());
    m_drawing->show({});
    m_loading.drop();
    m_trying.drop();
    m_standing->setText(QString());
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
    m_holds->setText(tr("%1 devices, %2 wires, %3 functions, %4 scenarios")
                         .arg(d.circuit.devices.size())
                         .arg(d.circuit.wires.size())
                         .arg(d.functions.size())
                         .arg(d.scenarios.size()));
    m_drawing->show(d.circuit);
    tryOut(*file);
}

/// What is quick, as after opening; what takes its time is not looked at, and the standing says so.
void StartPage::tryOut(const DossierFile& file)
{
    m_standing->setText(tr("How it stands is being worked out ..."));
    m_trying.run(
        [file](const std::stop_token& stop) -> std::optional<Expected<Standing>> {
            host::giveWay();
            Results results;
            results.put(kOnRecord.id, {}, Value::of(OnRecord{file.record, dayNow()}));
            if (auto done = workOut(file.dossier, {}, results, stop); !done)
                return stop.stop_requested() ? std::nullopt
                                             : std::optional<Expected<Standing>>(Unexpected{done.error()});
            return Expected<Standing>(standingOf(file.dossier, results));
        },
        [this, dossier = file.dossier](const std::shared_ptr<const Expected<Standing>>& standing) {
            if (*standing)
                showStanding(dossier, **standing);
            else
                m_standing->setText(words::sentence(standing->error()));
        });
}

void StartPage::showStanding(const Dossier& dossier, const Standing& standing)
{
    constexpr std::size_t kMostLines = 6;
    QStringList lines;
    for (const FunctionVerdict& v : standing.verdicts)
        if (const SafetyFunction* f = dossier.function(v.function); f && lines.size() < static_cast<int>(kMostLines))
            lines << QString::fromStdString(f->name) + QStringLiteral(": ") + words::verdictText(v);
    if (standing.verdicts.size() > kMostLines)
        lines << tr("and %1 more functions").arg(standing.verdicts.size() - kMostLines);
    const auto count = [&standing](Severity s) {
        return std::count_if(standing.checked.findings.begin(), standing.checked.findings.end(),
            [s](const Finding& f) { return f.severity == s; });
    };
    lines << tr("Findings: %1 forbid operation, %2 are to be corrected, %3 are notes.")
                 .arg(count(Severity::Stop))
                 .arg(count(Severity::Fix))
                 .arg(count(Severity::Note));
    if (!standing.checked.isWhole())
        lines << tr("Not everything was looked at: second faults, orders and worst stops are tried when it is open.");
    m_standing->setText(lines.join(QLatin1Char('\n')));
}

} // namespace ts::app
