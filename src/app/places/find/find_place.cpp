#include "app/places/find/find_place.h"

#include "app/document/moment.h"
#include "app/places/find/bridge_dialog.h"
#include "app/places/find/look_card.h"
#include "app/places/find/symptom_strip.h"
#include "app/widgets/marked_drawing.h"
#include "app/widgets/plain_text.h"
#include "app/widgets/upright_scroll.h"
#include "core/measuring/readings.h"
#include "core/results/study_ids.h"
#include "wording/finding_words.h"
#include "wording/test_words.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace ts::app {

using finding::Finder;
using finding::Taken;

FindPlace::FindPlace(const PlaceParts& parts, QWidget* parent)
    : Place(QStringLiteral("find"), tr("Find"), parent)
    , m_document(parts.document)
    , m_book(parts.book)
    , m_theme(parts.theme)
    , m_thinking(this)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 8, 16, 8);
    column->setSpacing(8);
    m_said = plainLabel({}, m_theme.verdict(), this);
    m_said->setObjectName("find.said");
    m_said->setWordWrap(true);
    m_stop = new QPushButton(tr("Stop"), this);
    m_stop->setObjectName("find.stop");
    auto* head = new QHBoxLayout;
    head->addWidget(m_said, 1);
    head->addWidget(m_stop);
    auto* bridge = new QPushButton(tr("Before a bridge ..."), this);
    bridge->setObjectName("find.bridge");
    bridge->setToolTip(tr("What is lost by joining two terminals, and what is bridged now"));
    head->addWidget(bridge);
    connect(bridge, &QPushButton::clicked, this, [this] {
        auto* dialog = new BridgeDialog(m_document, m_theme, this);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        dialog->open();
    });
    column->addLayout(head);
    m_strip = new SymptomStrip(m_theme, this);
    column->addWidget(m_strip);
    m_withTests = new QCheckBox(this);
    m_withTests->setObjectName("find.with_tests");
    column->addWidget(m_withTests);
    auto* middle = new QHBoxLayout;
    middle->addWidget(sideColumn(), 5);
    m_drawing = new MarkedDrawing(MarkedDrawing::Sign::Suspected, QStringLiteral("find.drawing"),
        tr("The circuit, with what is still suspected gone over with a highlighter"), m_theme, this);
    middle->addWidget(m_drawing, 6);
    column->addLayout(middle, 1);
    m_caution = plainLabel(
        words::word("caution.live") + QLatin1Char('\n') + words::word("caution.text"), m_theme.small(), this);
    m_caution->setWordWrap(true);
    column->addWidget(m_caution);
    connect(m_strip, &SymptomStrip::told, this, &FindPlace::tell);
    connect(m_strip, &SymptomStrip::takenBack, this, [this] {
        m_symptoms.pop_back();
        begin();
    });
    connect(m_strip, &SymptomStrip::historyChanged, this, [this] {
        if (!m_stands.empty())
            begin();
    });
    connect(m_strip, &SymptomStrip::started, this, &FindPlace::begin);
    connect(m_withTests, &QCheckBox::toggled, this, [this] {
        if (!m_stands.empty())
            begin();
    });
    connect(m_stop, &QPushButton::clicked, this, [this] {
        m_thinking.drop();
        showStand();
    });
    connect(m_card, &LookCard::answered, this, &FindPlace::answer);
    for (const auto& signal : {&Document::changed, &Document::loaded})
        connect(&m_document, signal, this, [this] {
            if (isVisible() || !m_stands.empty() || m_thinking.isBusy()) // else it is drawn when somebody comes
                takeCircuit();
        });
    takeCircuit();
}

QWidget* FindPlace::sideColumn()
{
    auto* scroll = new UprightScroll(this);
    m_work = new QWidget(scroll);
    auto* column = new QVBoxLayout(m_work);
    column->setContentsMargins(0, 0, 0, 0);
    m_card = new LookCard(m_theme, m_work);
    column->addWidget(m_card);
    m_found = plainLabel({}, m_theme.bold(), m_work);
    m_found->setObjectName("find.found");
    m_found->setWordWrap(true);
    column->addWidget(m_found);
    auto* row = new QHBoxLayout;
    m_who = new QLineEdit(m_work);
    m_who->setObjectName("find.who");
    m_who->setPlaceholderText(tr("who looked"));
    m_who->setAccessibleName(tr("Who looked"));
    m_keep = new QPushButton(tr("Into the record"), m_work);
    m_keep->setObjectName("find.keep");
    m_back = new QPushButton(tr("Take the last reading back"), m_work);
    m_back->setObjectName("find.back");
    m_anew = new QPushButton(tr("Begin anew"), m_work);
    m_anew->setObjectName("find.anew");
    for (QWidget* w : std::initializer_list<QWidget*>{m_back, m_anew, m_who, m_keep})
        row->addWidget(w);
    row->addStretch();
    column->addLayout(row);
    m_trail = plainLabel({}, m_theme.small(), m_work);
    m_trail->setObjectName("find.trail");
    m_trail->setWordWrap(true);
    column->addWidget(m_trail);
    column->addStretch();
    connect(m_back, &QPushButton::clicked, this, &FindPlace::takeBack);
    connect(m_keep, &QPushButton::clicked, this, &FindPlace::keep);
    connect(m_anew, &QPushButton::clicked, this, &FindPlace::forgetAll);
    scroll->setWidget(m_work);
    return scroll;
}

void FindPlace::showEvent(QShowEvent*)
{
    takeCircuit();
    if (!m_stands.empty())
        return;
    m_withTests->setChecked(!readInTests().empty());
    showStand();
    m_strip->takeKeyboard();
}

/// What is searched in is the circuit as it is drawn: another one is another search.
void FindPlace::takeCircuit()
{
    const Circuit& now = m_document.dossier().circuit;
    if (m_circuit && *m_circuit == now)
        return;
    m_circuit = std::make_shared<const Circuit>(now);
    m_plant.reset();
    if (auto plant = compile(now))
        m_plant = std::make_shared<const Plant>(*std::move(plant));
    m_strip->setEnabled(m_plant != nullptr);
    if (m_plant)
        m_strip->setPlant(*m_plant);
    m_drawing->setCircuit(now);
    forgetAll();
}

void FindPlace::forgetAll()
{
    m_thinking.drop();
    m_stands.clear();
    m_symptoms.clear();
    m_card->forget();
    showStand();
}

std::vector<Taken> FindPlace::readInTests() const
{
    const auto plan = m_book.fresh(kTests);
    if (!plan)
        return {};
    std::vector<Taken> read;
    bool isDeviating = false;
    const auto states = measuring::standingOf(*plan, m_document.file());
    for (std::size_t k = 0; k < states.size(); ++k) {
        if (states[k].readings.empty() || states[k].open == measuring::Open::PartChanged)
            continue;
        isDeviating |= states[k].open == measuring::Open::Disagrees;
        const TakenReading& r = *m_document.record()[states[k].readings.back()].reading;
        read.push_back({plan->steps[k].in, plan->steps[k].look,
            r.value ? measuring::figure(*r.value) : measuring::Reading{0, 0, r.word}});
    }
    return isDeviating ? read : std::vector<Taken>();
}

/// Everything that was told, on a finder that begins; what the circuit is, is found out only once.
void FindPlace::begin()
{
    m_card->forget();
    const auto old = m_stands.empty() ? nullptr : m_stands.front();
    m_stands.clear();
    const auto symptoms = m_symptoms;
    const auto before = m_withTests->isChecked() ? readInTests() : std::vector<Taken>();
    const finding::History history = m_strip->history();
    m_stop->setVisible(true);
    m_said->setText(
        symptoms.empty() ? tr("Working out what can be looked at ...") : tr("Trying what would look like that ..."));
    m_thinking.run(
        [circuit = m_circuit, old, symptoms, before, history](
            std::stop_token stop) -> std::optional<Expected<std::shared_ptr<const Stand>>> {
            auto finder = old ? Expected<Finder>(old->finder.anew(history)) : Finder::of(*circuit, history);
            if (!finder)
                return Unexpected{finder.error()};
            for (const auto& symptom : symptoms)
                if (const auto told = finder->tell(symptom, stop); !told)
                    return Unexpected{told.error()};
            if (const auto taken = finder->take(before, stop); !taken)
                return Unexpected{taken.error()};
            auto finding = finder->think(stop);
            if (!finding)
                return Unexpected{finding.error()};
            return std::make_shared<const Stand>(*std::move(finder), *std::move(finding));
        },
        [this](const auto& stand) { take(*stand); });
    showTrail();
}

void FindPlace::tell(const QString& symptom)
{
    auto symptoms = finding::symptomsFrom(*m_plant, symptom.toStdString());
    if (!symptoms) {
        m_said->setText(words::sentence(symptoms.error().message));
        return;
    }
    m_symptoms.push_back(*std::move(symptoms));
    begin();
}

void FindPlace::answer(const measuring::Reading& reading)
{
    if (m_stands.empty() || !m_stands.back()->finding.next || m_thinking.isBusy())
        return;
    const auto from = m_stands.back();
    m_stop->setVisible(true);
    m_said->setText(tr("Thinking ..."));
    m_thinking.run(
        [from, reading](std::stop_token stop) -> std::optional<Expected<std::shared_ptr<const Stand>>> {
            Finder finder = from->finder;
            if (const auto taken = finder.take({from->finding.next->in, from->finding.next->look, reading}, stop);
                !taken)
                return Unexpected{taken.error()};
            auto finding = finder.think(stop);
            if (!finding)
                return Unexpected{finding.error()};
            return std::make_shared<const Stand>(std::move(finder), *std::move(finding));
        },
        [this](const auto& stand) { take(*stand); });
}

void FindPlace::take(const Expected<std::shared_ptr<const Stand>>& stand)
{
    if (!stand) {
        if (stand.error().code == ErrorCode::Cancelled)
            return;
        showStand();
        m_said->setText(words::sentence(stand.error().message));
        return;
    }
    m_stands.push_back(*stand);
    showStand();
    m_card->takeKeyboard();
}

void FindPlace::takeBack()
{
    m_thinking.drop();
    if (m_stands.size() > 1)
        m_stands.pop_back();
    showStand();
}

void FindPlace::showStand()
{
    const auto inTests = readInTests().size();
    m_withTests->setVisible(inTests > 0);
    m_withTests->setText(tr("with what the tests have read (%1 readings)").arg(inTests));
    const bool isBegun = !m_stands.empty();
    m_stop->setVisible(false);
    m_work->setVisible(isBegun);
    showTrail();
    if (!isBegun) {
        m_said->setText(tr("It stopped, or does not do what it should: what was seen?"));
        m_drawing->setMarked({}, {});
        m_drawing->setProbes({});
        return;
    }
    const finding::Finding& f = m_stands.back()->finding;
    m_said->setText(f.isUnexplained ? tr("Not on the list")
            : f.isConcluded         ? tr("Found, as far as looks can tell")
                                    : tr("%1 possibilities are left").arg(f.left));
    m_drawing->setMarked(f.suspected, {});
    m_card->setVisible(f.next.has_value());
    std::vector<std::vector<std::string>> probes;
    if (f.next) {
        m_card->show(*f.next, *m_circuit);
        for (const std::string& at : f.next->look.at)
            probes.push_back(measuring::alternativesOf(at));
    }
    m_drawing->setProbes(probes);
    m_found->setVisible(f.isConcluded);
    if (f.isConcluded)
        m_found->setText(QString::fromStdString(wording::findingText(*m_circuit, f)));
    m_who->setVisible(f.isConcluded);
    m_keep->setVisible(f.isConcluded);
    m_back->setVisible(m_stands.size() > 1);
}

void FindPlace::showTrail()
{
    QStringList told, read;
    for (const auto& all : m_symptoms)
        for (const std::string& line : wording::symptomLines(all))
            told << QString::fromStdString(line);
    m_strip->showTold(told, !m_stands.empty());
    for (std::size_t k = 1; k < m_stands.size(); ++k) {
        const Taken& t = m_stands[k]->finder.taken().back();
        read.prepend(tr("%1.  %2: %3")
                         .arg(k)
                         .arg(QString::fromStdString(wording::lookLine(*m_circuit, t.in, t.look)),
                             QString::fromStdString(wording::readingText(t.reading, t.look.with))));
    }
    m_trail->setText(read.join('\n'));
}

void FindPlace::keep()
{
    RecordEntry entry;
    entry.date = momentNow();
    entry.who = m_who->text().trimmed().toStdString();
    entry.kind = "note";
    entry.role = "maintains";
    entry.subject = "find";
    QString text = tr("%1 readings. %2").arg(m_stands.size() - 1).arg(m_found->text());
    constexpr qsizetype kMostText = 2000; // bytes that a file takes
    while (text.toUtf8().size() > kMostText)
        text.chop(1);
    entry.text = text.toStdString();
    const auto added = m_document.addToRecord(std::move(entry));
    m_said->setText(added ? tr("It is in the record") : words::sentence(added.error().message));
}

std::vector<PlaceView> FindPlace::views()
{
    return {{id(), [this] { begin(); }, [this] { return !m_thinking.isBusy(); }}};
}

} // namespace ts::app
