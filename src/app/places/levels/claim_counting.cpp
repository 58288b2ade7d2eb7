#include "app/places/levels/claim_counting.h"

#include "app/widgets/plain_text.h"
#include "app/words/words.h"
#include "core/edit/claim_edits.h"

#include <QDoubleSpinBox>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace ts::app {

ClaimCounting::ClaimCounting(Document& document, const StudyBook& book, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_book(book)
    , m_theme(theme)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    m_grid = new QGridLayout;
    m_grid->setColumnStretch(2, 1);
    column->addLayout(m_grid);
    m_table = new QLabel(this);
    m_table->setObjectName("claim.counted");
    m_table->setTextFormat(Qt::RichText);
    column->addWidget(m_table);
    m_take = new QPushButton(tr("Take the counted operations into the claim"), this);
    m_take->setObjectName("claim.take_counted");
    column->addWidget(m_take, 0, Qt::AlignLeft);
    connect(m_take, &QPushButton::clicked, this, &ClaimCounting::takeCounted);
    connect(&book, &StudyBook::changed, this, &ClaimCounting::takeResults);
}

std::vector<SwitchingDuty> ClaimCounting::counted() const
{
    const auto levels = m_book.fresh(kLevels);
    return levels ? levels->duties : std::vector<SwitchingDuty>{};
}

void ClaimCounting::show(const SafetyFunction& function, const safety::FunctionLevel& level)
{
    m_function = function.id;
    m_level = level;
    const Dossier& d = m_document.dossier();
    std::vector<ScenarioId> scenarios;
    for (const Scenario& s : d.scenarios)
        scenarios.push_back(s.id);
    if (scenarios != m_shown) {
        m_shown = scenarios;
        rebuild();
    }
    for (std::size_t k = 0; k < m_times.size(); ++k) {
        const auto times = d.machine.duty.timesPerHour.find(m_shown[k]);
        m_times[k]->setValue(times == d.machine.duty.timesPerHour.end() ? 0.0 : times->second);
    }
    takeResults();
}

void ClaimCounting::rebuild()
{
    for (QDoubleSpinBox* box : m_times)
        box->deleteLater();
    while (QLayoutItem* item = m_grid->takeAt(0)) {
        if (item->widget())
            item->widget()->deleteLater();
        delete item;
    }
    m_times.clear();
    for (std::size_t k = 0; k < m_shown.size(); ++k) {
        const Scenario& s = m_document.dossier().scenarios[k];
        m_grid->addWidget(plainLabel(QString::fromStdString(s.name), m_theme.body(), this), static_cast<int>(k), 0);
        auto* times = new QDoubleSpinBox(this);
        times->setObjectName(QStringLiteral("claim.times.%1").arg(s.id.value));
        times->setAccessibleName(tr("How often in an hour: %1").arg(QString::fromStdString(s.name)));
        times->setRange(0, 3600);
        times->setDecimals(3);
        times->setKeyboardTracking(false);
        times->setSpecialValueText(tr("not counted"));
        times->setSuffix(tr(" times in a working hour"));
        m_grid->addWidget(times, static_cast<int>(k), 1);
        m_times.push_back(times);
        connect(times, &QDoubleSpinBox::editingFinished, this, [this, times, id = s.id] {
            const auto& now = m_document.dossier().machine.duty.timesPerHour;
            const auto old = now.find(id);
            if (times->value() != (old == now.end() ? 0.0 : old->second))
                m_document.edit(tr("How often a scenario happens"),
                    [times, id](const Dossier& d) { return edit::withScenarioTimes(d, id, times->value()); });
        });
    }
}

void ClaimCounting::takeResults()
{
    const Dossier& d = m_document.dossier();
    QString html = "<table cellpadding='2'>";
    bool isAny = false;
    std::vector<DeviceId> told;
    for (const safety::SubsystemLevel& s : m_level.subsystems)
        for (const safety::ChannelLevel& c : s.channels)
            for (const safety::PartLevel& p : c.parts) {
                const auto n = countedPerYear(d.machine.duty, counted(), p.device);
                if (!n || std::find(told.begin(), told.end(), p.device) != told.end())
                    continue;
                told.push_back(p.device);
                isAny = true;
                const QString claimed = p.operations < 0 ? tr("nothing")
                                                         : words::number(m_level.explanation[p.operations].si, "1/y");
                html += "<tr><td>" + QString::fromStdString(p.tag).toHtmlEscaped() + "</td><td>&nbsp; "
                    + tr("counted %1, claimed %2").arg(words::number(*n, "1/y"), claimed).toHtmlEscaped()
                    + "</td></tr>";
            }
    m_table->setText(html + "</table>");
    m_table->setVisible(isAny);
    m_take->setEnabled(isAny);
}

void ClaimCounting::takeCounted()
{
    const Duty duty = m_document.dossier().machine.duty;
    const std::vector<SwitchingDuty> seen = counted();
    m_document.edit(tr("Take the counted operations"), [&, id = m_function](const Dossier& d) {
        return edit::withOperations(d, id, [&](DeviceId device) { return countedPerYear(duty, seen, device); });
    });
}

} // namespace ts::app
