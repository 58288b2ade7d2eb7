#include "app/places/levels/common_cause.h"

#include "app/places/levels/evidence.h"
#include "core/library/table.h"
#include "wording/path_words.h"

#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace ts::app {

CommonCause::CommonCause(const Theme& theme, Change change, QWidget* parent)
    : QWidget(parent)
    , m_change(std::move(change))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    m_drawing = new FigureView(theme, this);
    m_drawing->setObjectName("claim.means");
    m_drawing->setAccessibleName(tr("What the two channels share"));
    m_drawing->setFocusPolicy(Qt::NoFocus);
    column->addWidget(m_drawing);
    const Table& table = ccfMeasuresTable();
    for (std::size_t row = 0; row < table.rowCount(); ++row) {
        const std::string id(table.cell(row, "id"));
        const QString measure = QString::fromStdString(std::string(table.cell(row, "measure")));
        auto* flow = new WordFlow(theme.body(), this);
        auto* answer = new ToggleWord(theme, "claim.ccf." + QString::fromStdString(id),
            tr("%1 points:").arg(table.number(row, "points").value_or(0)), flow);
        answer->setAccessibleName(answer->text() + ' ' + measure);
        flow->put(answer);
        flow->say(measure + tr(", seen in"));
        auto* evidence = new TextWord(theme, "claim.ccf_evidence." + QString::fromStdString(id),
            tr("Where it can be seen: %1").arg(measure), flow);
        evidence->setPlaceholderText(tr("where?"));
        flow->put(evidence);
        flow->say(tr("."));
        column->addWidget(flow);
        connect(answer, &QAbstractButton::clicked, this, [this, id](bool is) {
            m_change(tr("Answer against common cause"), [&](ClaimedSubsystem& s) {
                std::erase(s.ccfAnswers, id);
                if (is)
                    s.ccfAnswers.push_back(id);
            });
        });
        connect(evidence, &QLineEdit::editingFinished, this, [this, id, evidence] {
            m_change(tr("Evidence"),
                [&](ClaimedSubsystem& s) { setEvidence(s.ccfEvidence, id, evidence->text().trimmed().toStdString()); });
        });
        m_questions.push_back({id, answer, evidence});
    }
    auto* all = new QPushButton(tr("The same answers for every subsystem of this function"), this);
    all->setObjectName("claim.ccf_all");
    column->addWidget(all, 0, Qt::AlignLeft);
    connect(all, &QPushButton::clicked, this, &CommonCause::everywhereWanted);
}

void CommonCause::show(const Circuit& circuit, const ClaimedSubsystem& s)
{
    for (const Question& q : m_questions) {
        q.answer->setChecked(std::find(s.ccfAnswers.begin(), s.ccfAnswers.end(), q.id) != s.ccfAnswers.end());
        putWords(q.evidence, evidenceOf(s.ccfEvidence, q.id));
    }
    m_drawing->setVisible(s.channels.size() == 2);
    const auto rows = wording::meansRows(circuit, s);
    m_drawing->setFixedHeight(static_cast<int>(figures::channelMeans(rows, wording::meansWords(), 400).height));
    m_drawing->show(
        [rows](double width, double, int) { return figures::channelMeans(rows, wording::meansWords(), width); });
}

} // namespace ts::app
