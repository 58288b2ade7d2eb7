#include "app/places/machine/notes_page.h"

#include "app/places/machine/plan_drawing.h"
#include "app/widgets/plain_text.h"
#include "core/edit/circuit_edits.h"
#include "core/edit/wiring_edits.h"
#include "core/library/registry.h"

#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTextBlock>
#include <QVBoxLayout>

#include <algorithm>
#include <array>

namespace ts::app {
namespace {

struct WayOfLaying {
    RouteKind kind;
    const char* word;
};
constexpr std::array kLaid{WayOfLaying{RouteKind::Enclosure, "offer.laid.enclosure"},
    WayOfLaying{RouteKind::Cable, "offer.laid.cable"},
    WayOfLaying{RouteKind::ProtectedCable, "offer.laid.protected_cable"},
    WayOfLaying{RouteKind::ShieldedCable, "offer.laid.shielded_cable"},
    WayOfLaying{RouteKind::MovingCable, "offer.laid.moving_cable"}};

QString kindWord(std::string_view kind)
{
    return words::word("kind." + std::string(kind));
}

/// Kinds whose letter the tag begins with come first.
std::vector<const DeviceKind*> kindsFor(const std::string& tag)
{
    std::vector<const DeviceKind*> kinds(deviceKinds().begin(), deviceKinds().end());
    std::stable_partition(kinds.begin(), kinds.end(), [&](const DeviceKind* k) { return tag.starts_with(k->letter); });
    return kinds;
}

} // namespace

NotesPage::NotesPage(const PlaceParts& parts, QWidget* parent)
    : QWidget(parent)
    , m_document(parts.document)
    , m_theme(parts.theme)
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(24);
    row->addWidget(typingSide(), 5);
    row->addWidget(drawingSide(), 6);
    connect(&m_document, &Document::changed, this, &NotesPage::takeDocument);
    connect(&m_document, &Document::loaded, this, &NotesPage::takeLoaded);
    connect(&m_document.history(), &QUndoStack::indexChanged, this, &NotesPage::showEntries);
    clearQuestion();
    takeLoaded();
}

QWidget* NotesPage::typingSide()
{
    auto* side = new QWidget(this);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    auto* head = new QHBoxLayout;
    m_count = plainLabel(QString(), m_theme.body(), side);
    m_count->setObjectName("notes.count");
    auto* empty = new QPushButton(tr("Begin with an empty panel"), side);
    empty->setObjectName("notes.empty");
    connect(empty, &QPushButton::clicked, this, &NotesPage::emptyPanelWanted);
    head->addWidget(m_count, 1);
    head->addWidget(empty);
    column->addLayout(head);

    m_list = new QListWidget(side);
    m_list->setObjectName("notes.list");
    m_list->setAccessibleName(tr("Lines that were taken"));
    m_list->setFont(m_theme.mono(11));
    m_list->setWordWrap(true);
    m_list->setFrameShape(QFrame::NoFrame);
    m_list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    column->addWidget(m_list, 1);

    auto* state = new WordFlow(m_theme.body(), side);
    state->say(tr("Wires that follow are laid"));
    m_route = new ChoiceWord(m_theme, QStringLiteral("notes.route"), tr("Where wires that follow are laid"), state);
    connect(m_route, &QComboBox::activated, this, &NotesPage::chooseRoute);
    state->put(m_route);
    m_layRest = new QPushButton(tr("All without a route there, too"), state);
    m_layRest->setObjectName("notes.lay_rest");
    connect(m_layRest, &QPushButton::clicked, this, &NotesPage::layTheRest);
    state->put(m_layRest);
    column->addWidget(state);

    m_typed = new QPlainTextEdit(side);
    m_typed->setObjectName("notes.typed");
    m_typed->setAccessibleName(tr("A line as it is read off the panel; Enter takes it"));
    m_typed->setFont(m_theme.mono(14));
    m_typed->setFixedHeight(84);
    m_typed->setPlaceholderText(tr("Q1 13 > S2 14"));
    m_typed->installEventFilter(this);
    connect(m_typed, &QPlainTextEdit::cursorPositionChanged, this, &NotesPage::showCompletions);
    column->addWidget(m_typed);
    m_completions = new WordFlow(m_theme.mono(12), side);
    m_completions->setMinimumHeight(26);
    column->addWidget(m_completions);

    m_question = plainLabel(QString(), m_theme.body(), side);
    m_question->setObjectName("notes.question");
    column->addWidget(m_question);
    m_answers = new WordFlow(m_theme.body(), side);
    column->addWidget(m_answers);
    return side;
}

QWidget* NotesPage::drawingSide()
{
    auto* side = new QWidget(this);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    m_power = new PlanDrawing(m_theme, PlanDrawing::Which::Power, QStringLiteral("notes.power"),
        tr("Power circuit as far as it is typed"), side);
    m_control = new PlanDrawing(m_theme, PlanDrawing::Which::Control, QStringLiteral("notes.control"),
        tr("Control circuit as far as it is typed"), side);
    m_powerHead = plainLabel(QString(), m_theme.bold(), side);
    m_controlHead = plainLabel(tr("Control circuit"), m_theme.bold(), side);
    column->addWidget(m_powerHead);
    column->addWidget(m_power, 1);
    column->addWidget(m_controlHead);
    column->addWidget(m_control, 1);
    return side;
}

bool NotesPage::eventFilter(QObject* watched, QEvent* event)
{
    if (watched != m_typed || event->type() != QEvent::KeyPress)
        return QWidget::eventFilter(watched, event);
    auto* key = static_cast<QKeyEvent*>(event);
    if ((key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter) && !(key->modifiers() & Qt::ShiftModifier)) {
        takeLines();
        return true;
    }
    if (key->key() == Qt::Key_Tab && key->modifiers() == Qt::NoModifier)
        if (auto* first = m_completions->findChild<QPushButton*>()) {
            first->click();
            return true;
        }
    return QWidget::eventFilter(watched, event);
}

void NotesPage::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    takeDocument(); // the drawings wait for somebody who looks
    m_typed->setFocus();
}

/// From the top, until a line asks or cannot be taken; all that were taken are one step of undo.
void NotesPage::takeLines()
{
    clearQuestion();
    QStringList lines = m_typed->toPlainText().split(QLatin1Char('\n'));
    DossierFile file = m_document.file();
    notes::Pad pad = m_pad;
    std::vector<std::pair<QString, notes::Taken>> taken;
    notes::Outcome stopped = notes::Taken{};
    while (!lines.isEmpty()) {
        notes::Outcome outcome = notes::take(file, pad, lines.front().toStdString());
        auto* done = std::get_if<notes::Taken>(&outcome);
        if (!done) {
            stopped = std::move(outcome);
            break;
        }
        file = done->file;
        pad = done->pad;
        taken.emplace_back(lines.takeFirst(), std::move(*done));
    }
    const bool changes = std::any_of(taken.begin(), taken.end(),
        [](const auto& t) { return !t.second.wires.empty() || !t.second.devices.empty() || !t.second.done.empty(); });
    if (changes) {
        m_newDevices.clear();
        m_newTerminals.clear();
        const QString label = taken.size() == 1 ? tr("typed: %1").arg(taken.front().first.trimmed())
                                                : tr("%n lines typed", nullptr, static_cast<int>(taken.size()));
        const bool edits = file.dossier != m_document.dossier();
        m_isTaking = true; // shown once, with its marks
        const bool isTaken = !edits
            || m_document.editFile(label, [&file](const DossierFile&) { return Expected<DossierFile>(file); });
        m_isTaking = false;
        if (!isTaken)
            return; // read only: said by the window, and what was typed stays
        m_pad = pad;
        std::erase_if(m_entries, [this](const Entry& e) { return e.index > m_document.history().index(); });
        for (const auto& [line, what] : taken)
            keep(line, what);
        takeDocument();
    }
    const QSignalBlocker quiet(m_typed);
    m_typed->setPlainText(lines.join(QLatin1Char('\n')));
    m_typed->moveCursor(QTextCursor::Start);
    m_typed->moveCursor(QTextCursor::EndOfBlock);
    showCompletions();
    if (const auto* asked = std::get_if<notes::Asked>(&stopped))
        ask(*asked);
    else if (const auto* error = std::get_if<Error>(&stopped))
        say(words::sentence(error->message));
}

void NotesPage::keep(const QString& line, const notes::Taken& taken)
{
    if (taken.done.empty())
        return;
    QStringList said;
    for (const Message& m : taken.done)
        said << words::sentence(m);
    m_entries.push_back({line.trimmed() + QStringLiteral("\n    ") + said.join(QStringLiteral("\n    ")),
        m_document.history().index()});
    m_newDevices.insert(taken.devices.begin(), taken.devices.end());
    for (WireId id : taken.wires)
        if (const Wire* w = m_document.dossier().circuit.wire(id))
            m_newTerminals.insert({w->from, w->to});
}

void NotesPage::answer(const std::vector<std::string>& given)
{
    if (!m_asked)
        return;
    const QString line = QString::fromStdString(notes::answerLine(*m_asked, given));
    const QString rest = m_typed->toPlainText();
    m_typed->setPlainText(line + QLatin1Char('\n') + rest);
    m_typed->setFocus();
    takeLines();
}

void NotesPage::say(const QString& text)
{
    m_question->setText(text);
}

void NotesPage::clearQuestion()
{
    m_asked.reset();
    m_answers->clear();
    say(tr(
        "A wire: Q1 13 > S2 14, also in a row: Q1 13 > S2 14 > S3 13. Behind it, where it is known: =17 (its number) "
        "1.5mm2 2m red. What a device is: Q1 = contactor. What a contact does: K1 5-6 nc, no, or ? if nobody knows. "
        "Where wires are laid: in door duct: enclosure. What coils and lamps are made for: control 24 dc. Enter takes "
        "the line, Tab completes it, Ctrl+Z takes it back."));
}

void NotesPage::ask(const notes::Asked& asked)
{
    m_asked = asked;
    switch (asked.what) {
    case notes::Asked::What::Kind:
        return askKind(asked);
    case notes::Asked::What::Values:
        return askValues(asked);
    case notes::Asked::What::Contact:
        return askContact(asked);
    }
}

void NotesPage::askKind(const notes::Asked& asked)
{
    say(tr("%1 is not there yet. What is it?").arg(QString::fromStdString(asked.tag)));
    for (const DeviceKind* kind : kindsFor(asked.tag)) {
        const std::string id(kind->id);
        auto* choice = new QPushButton(kindWord(id), m_answers);
        choice->setObjectName("notes.kind." + QString::fromStdString(id));
        choice->setFont(asked.tag.starts_with(kind->letter) ? m_theme.bold() : m_theme.small());
        connect(
            choice, &QPushButton::clicked, this, [this, id] { answer({id}); }, Qt::QueuedConnection);
        m_answers->put(choice);
    }
    if (auto* first = m_answers->findChild<QPushButton*>())
        first->setFocus();
}

void NotesPage::askValues(const notes::Asked& asked)
{
    say(tr("%1, a %2, has on its plate:").arg(QString::fromStdString(asked.tag), kindWord(asked.kind)));
    const DeviceKind* kind = deviceKind(asked.kind);
    std::vector<std::function<QString()>> fields;
    for (const std::string& name : asked.parameters) {
        const auto spec = std::find_if(
            kind->parameters.begin(), kind->parameters.end(), [&](const ParameterSpec& s) { return s.name == name; });
        const QString label = words::word("parameter." + name), id = "notes.value." + QString::fromStdString(name);
        m_answers->say(label);
        if (spec->type == ParameterSpec::Type::Word && !spec->allowed.empty()) {
            auto* box = new ChoiceWord(m_theme, id, label, m_answers);
            box->addItem(tr("not read yet"), QString());
            for (const QString& word :
                QString::fromUtf8(spec->allowed.data(), static_cast<qsizetype>(spec->allowed.size()))
                    .split(QLatin1Char(' ')))
                box->addItem(word, word);
            m_answers->put(box);
            fields.push_back([box] { return box->currentData().toString(); });
            continue;
        }
        auto* edit = new TextWord(m_theme, id, label, m_answers);
        edit->setPlaceholderText(tr("not read yet"));
        m_answers->put(edit);
        fields.push_back([edit] { return edit->text().trimmed(); });
    }
    auto* take = new QPushButton(tr("Take these"), m_answers);
    take->setObjectName("notes.take_values");
    const auto give = [this, fields] {
        std::vector<std::string> values;
        for (const auto& field : fields)
            values.push_back(field().replace(QLatin1Char(','), QLatin1Char('.')).toStdString());
        if (std::none_of(values.begin(), values.end(), [](const std::string& v) { return v.empty(); }))
            answer(values);
    };
    connect(take, &QPushButton::clicked, this, give, Qt::QueuedConnection);
    m_answers->put(take);
    const auto edits = m_answers->findChildren<QLineEdit*>();
    for (QLineEdit* edit : edits)
        connect(edit, &QLineEdit::returnPressed, this, give, Qt::QueuedConnection);
    m_answers->chainAfter(m_typed);
    if (!edits.isEmpty())
        edits.front()->setFocus();
}

void NotesPage::askContact(const notes::Asked& asked)
{
    const QString marking = QString::fromStdString(asked.marking);
    say(tr("%1 has no terminal %2 yet. Which contact is it, and what does it do as long as nothing acts on the device?")
            .arg(QString::fromStdString(asked.tag), marking));
    auto* pair = new TextWord(m_theme, QStringLiteral("notes.pair"), tr("Its two terminals"), m_answers);
    pair->setText(marking + QLatin1Char('-'));
    m_answers->put(pair);
    const std::pair<const char*, QString> effects[] = {
        {"nc", tr("closed (NC)")}, {"no", tr("open (NO)")}, {"?", tr("nobody knows: to be measured")}};
    for (const auto& [word, text] : effects) {
        auto* choice = new QPushButton(text, m_answers);
        choice->setObjectName(QStringLiteral("notes.effect.") + QLatin1String(*word == '?' ? "unknown" : word));
        connect(
            choice, &QPushButton::clicked, this,
            [this, pair, effect = std::string(word)] {
                answer({pair->text().trimmed().toStdString(), effect});
            },
            Qt::QueuedConnection);
        m_answers->put(choice);
    }
    pair->setFocus();
}

void NotesPage::showCompletions()
{
    constexpr std::size_t kMost = 12;
    const QString before = m_typed->textCursor().block().text().left(m_typed->textCursor().positionInBlock());
    std::vector<std::string> words = notes::completions(m_document.dossier().circuit, before.toStdString(), kMost);
    if (words == m_offered)
        return; // most keys change nothing here
    m_offered = std::move(words);
    m_completions->clear();
    for (const std::string& word : m_offered) {
        auto* choice = new QPushButton(QString::fromStdString(word), m_completions);
        choice->setFont(m_theme.mono(12));
        choice->setFocusPolicy(Qt::NoFocus);
        connect(choice, &QPushButton::clicked, this, [this, word] { complete(QString::fromStdString(word)); });
        m_completions->put(choice);
    }
}

void NotesPage::complete(const QString& word)
{
    QTextCursor cursor = m_typed->textCursor();
    const QString before = cursor.block().text().left(cursor.positionInBlock());
    const auto begun = before.size() - 1
        - std::max(before.lastIndexOf(QLatin1Char(' ')), before.lastIndexOf(QLatin1Char('>')));
    cursor.movePosition(QTextCursor::Left, QTextCursor::KeepAnchor, static_cast<int>(begun));
    const bool isAfterArrow = before.endsWith(QLatin1Char('>'));
    cursor.insertText((isAfterArrow ? QStringLiteral(" ") : QString()) + word + QLatin1Char(' '));
    m_typed->setTextCursor(cursor);
    m_typed->setFocus();
}

/// The routes that are there, then ways of laying that make one.
void NotesPage::chooseRoute(int index)
{
    const QString line = m_route->itemData(index).toString();
    const notes::Outcome outcome = notes::take(m_document.file(), m_pad, line.toStdString());
    if (const auto* taken = std::get_if<notes::Taken>(&outcome))
        m_pad = taken->pad;
    showState();
}

void NotesPage::layTheRest()
{
    m_document.editFile(tr("laid in %1").arg(QString::fromStdString(m_pad.route)),
        [pad = m_pad](const DossierFile& before) -> Expected<DossierFile> {
            DossierFile file = edit::withRoute(before, pad.route, pad.routeKind);
            const RouteId route = edit::routeNamed(file.dossier.circuit, pad.route);
            const std::vector<Wire> wires = file.dossier.circuit.wires;
            for (const Wire& w : wires)
                if (!file.dossier.circuit.route(w.route)) {
                    auto laid = edit::withWireRouted(file, w.id, route);
                    if (!laid)
                        return laid;
                    file = std::move(*laid);
                }
            return file;
        });
}

/// What was taken back by undo stays to be read.
void NotesPage::showEntries()
{
    if (!isVisible() || m_isTaking)
        return;
    if (const int lines = static_cast<int>(m_before.size() + m_entries.size()); m_list->count() > lines)
        m_list->clear();
    for (int at = m_list->count(); at < m_before.size(); ++at)
        m_list->addItem(m_before[at]);
    for (std::size_t at = 0; at < m_entries.size(); ++at)
        showEntry(static_cast<int>(m_before.size()) + static_cast<int>(at), m_entries[at]);
    m_list->scrollToBottom();
}

/// A row is laid out anew only where it reads otherwise.
void NotesPage::showEntry(int row, const Entry& entry)
{
    const bool isBack = entry.index > m_document.history().index();
    const QString text = isBack ? tr("taken back: %1").arg(entry.text) : entry.text;
    QListWidgetItem* item = row < m_list->count() ? m_list->item(row) : new QListWidgetItem(m_list);
    if (item->text() == text)
        return;
    QFont font = m_list->font();
    font.setStrikeOut(isBack);
    item->setFont(font);
    item->setText(text);
}

void NotesPage::showState()
{
    const Circuit& c = m_document.dossier().circuit;
    const auto nowhere = std::count_if(
        c.wires.begin(), c.wires.end(), [&c](const Wire& w) { return !c.route(w.route); });
    const QSignalBlocker quiet(m_route);
    m_route->clear();
    m_route->addItem(tr("nobody has said where"), QStringLiteral("in:"));
    for (const Route& r : c.routes)
        m_route->addItem(tr("in %1").arg(QString::fromStdString(r.name)),
            QString::fromStdString("in " + r.name + ": " + std::string(routeWord(r.kind))));
    for (const WayOfLaying& way : kLaid) {
        if (std::any_of(c.routes.begin(), c.routes.end(), [&](const Route& r) { return r.kind == way.kind; }))
            continue;
        const QString name = words::word(way.word), kind = QString::fromStdString(std::string(routeWord(way.kind)));
        m_route->addItem(tr("new: %1").arg(name), QStringLiteral("in %1: %2").arg(name, kind));
    }
    const QString now = QString::fromStdString(m_pad.route);
    int at = m_pad.route.empty() ? 0 : m_route->findText(tr("in %1").arg(now));
    if (at < 0) { // no wire is in it yet
        m_route->insertItem(1, tr("in %1").arg(now),
            QString::fromStdString("in " + m_pad.route + ": " + std::string(routeWord(m_pad.routeKind))));
        at = 1;
    }
    m_route->setCurrentIndex(at);
    m_layRest->setVisible(nowhere > 0 && !m_pad.route.empty());
    QString text = c.devices.empty()
        ? tr("Nothing is typed in yet.")
        : tr("%1 devices, %2 wires, as typed, not as found.").arg(c.devices.size()).arg(c.wires.size());
    if (nowhere > 0)
        text += QLatin1Char(' ') + tr("%n wires are laid nobody said where.", nullptr, static_cast<int>(nowhere));
    m_count->setText(text);
}

void NotesPage::takeLoaded()
{
    m_entries.clear();
    m_list->clear();
    m_pad = {};
    m_newDevices.clear();
    m_newTerminals.clear();
    m_before = QString::fromStdString(notes::notesOf(m_document.dossier().circuit))
                   .split(QLatin1Char('\n'), Qt::SkipEmptyParts);
    takeDocument();
}

void NotesPage::takeDocument()
{
    if (!isVisible() || m_isTaking)
        return; // nobody looks: made when the page is shown
    showState();
    showEntries();
    const Circuit& c = m_document.dossier().circuit;
    m_power->show(c, m_newDevices, m_newTerminals);
    m_control->show(c, m_newDevices, m_newTerminals);
    const bool hasPower = !m_power->scene().symbols.empty(), hasControl = !m_control->scene().symbols.empty();
    m_powerHead->setText(hasPower || hasControl
            ? tr("Power circuit")
            : tr("The drawing grows here, with what the last line brought marked in it."));
    m_controlHead->setVisible(hasControl);
}

} // namespace ts::app
