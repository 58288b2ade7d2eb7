#include "app/places/levels/part_strip.h"

#include "app/widgets/marks.h"
#include "app/widgets/plain_text.h"
#include "app/words/words.h"
#include "core/edit/device_edits.h"

#include <QGridLayout>
#include <QLabel>
#include <QPainter>
#include <QSlider>

#include <algorithm>

namespace ts::app {

PartStrip::PartStrip(Document& document, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_theme(theme)
{
    setObjectName("levels.parts");
}

/// Devices of the claim whose kind has more than one part with a B10d to choose from, and that have no value of their
/// own.
std::vector<PartStrip::Row> PartStrip::rows() const
{
    std::vector<Row> rows;
    const Circuit& circuit = m_document.dossier().circuit;
    const SafetyFunction* f = m_document.dossier().function(m_function);
    for (const ClaimedSubsystem& s : f ? f->claim : std::vector<ClaimedSubsystem>{})
        for (const ClaimedChannel& c : s.channels)
            for (const ClaimedPart& p : c.parts) {
                const Device* device = circuit.device(p.device);
                if (!device || device->reliability
                    || std::any_of(rows.begin(), rows.end(), [&p](const Row& r) { return r.device == p.device; }))
                    continue;
                std::vector<std::pair<double, std::string>> known;
                for (const Part& part : circuit.parts)
                    if (part.kind == device->kind && part.reliability && part.reliability->b10dCycles)
                        known.emplace_back(*part.reliability->b10dCycles, part.id);
                std::sort(known.begin(), known.end());
                Row row{p.device, {}};
                for (const auto& [b10d, id] : known)
                    row.parts.push_back(id);
                if (row.parts.size() > 1)
                    rows.push_back(std::move(row));
            }
    return rows;
}

void PartStrip::setFunction(FunctionId function)
{
    const bool isSame = function == m_function && layout();
    m_function = function;
    std::vector<Row> now = rows();
    if (!isSame || !std::equal(now.begin(), now.end(), m_rows.begin(), m_rows.end(), [](const Row& a, const Row& b) {
            return a.isSame(b);
        }))
        rebuild(std::move(now));
    refresh();
}

void PartStrip::rebuild(std::vector<Row> rows)
{
    qDeleteAll(findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly));
    delete layout();
    m_rows = std::move(rows);
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(14, 32, 14, 10);
    grid->setHorizontalSpacing(8);
    grid->setColumnStretch(2, 1);
    grid->setColumnStretch(5, 1);
    int line = 0;
    for (Row& row : m_rows) {
        const Device* device = m_document.dossier().circuit.device(row.device);
        const QString tag = QString::fromStdString(device->tag);
        row.slider = new QSlider(Qt::Horizontal, this);
        row.slider->setObjectName("slider.part." + tag);
        row.slider->setAccessibleName(tr("Part of %1, by how long it lasts").arg(tag));
        row.slider->setRange(0, static_cast<int>(row.parts.size()) - 1);
        row.slider->setPageStep(1);
        row.slider->setTickPosition(QSlider::TicksBelow);
        row.slider->setFixedWidth(90);
        row.note = plainLabel({}, m_theme.small(), this);
        const int first = line % 2 * 3;
        grid->addWidget(plainLabel(tr("%1 is").arg(tag), m_theme.body(), this), line / 2, first);
        grid->addWidget(row.slider, line / 2, first + 1);
        grid->addWidget(row.note, line++ / 2, first + 2);
        connect(row.slider, &QSlider::sliderPressed, this, [this] { ++m_gesture; });
        connect(row.slider, &QSlider::valueChanged, this, [this, row](int k) { choose(row, k); });
    }
    if (m_rows.empty())
        grid->addWidget(plainLabel(tr("The parts list has no second part of a kind that the claim uses: add a parts "
                                      "list, or enter values with Data in the claim."),
                            m_theme.body(), this),
            0, 0, 1, 6);
}

void PartStrip::refresh()
{
    m_isRefreshing = true;
    const Circuit& circuit = m_document.dossier().circuit;
    for (Row& row : m_rows) {
        const Device* device = circuit.device(row.device);
        const auto at = std::find(row.parts.begin(), row.parts.end(), device->part);
        if (at != row.parts.end())
            row.slider->setValue(static_cast<int>(at - row.parts.begin()));
        const Part* part = circuit.part(device->part);
        row.note->setText(part && part->reliability && part->reliability->b10dCycles
                ? QStringLiteral("%1, B10d %2")
                      .arg(QString::fromStdString(part->name), words::number(*part->reliability->b10dCycles, ""))
                : tr("no part of the list"));
    }
    m_isRefreshing = false;
}

void PartStrip::choose(const Row& row, int k)
{
    const std::string& part = row.parts[static_cast<std::size_t>(k)];
    const Device* device = m_document.dossier().circuit.device(row.device);
    if (m_isRefreshing || !device || device->part == part)
        return;
    const bool isTaken = m_document.editFile(
        tr("Another part"), [&](const DossierFile& file) { return edit::withPartOf(file, row.device, part); },
        QStringLiteral("part%1.%2").arg(row.device.value).arg(m_gesture));
    if (!isTaken)
        refresh(); // a part that has too few contacts for the wires is none for it
}

void PartStrip::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const Colours& c = m_theme.colours();
    paintPanel(p, rect(), c.panel, c.line);
    p.setPen(c.ink);
    p.setFont(m_theme.bold());
    p.drawText(QRectF(14, 8, width() - 28, 18), Qt::AlignVCenter, tr("Which part it is"));
}

} // namespace ts::app
