#include "app/places/levels/reliability_form.h"

#include "app/widgets/plain_text.h"
#include "app/words/words.h"
#include "core/edit/reliability_edits.h"
#include "core/library/table.h"

#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QLocale>
#include <QPushButton>

namespace ts::app {
namespace {

enum Kind { OfPart, Typical, B10d, B10, Mttfd, Mttf, Fit, Pfhd };

std::optional<double> Reliability::*const kValueOf[]{nullptr, nullptr, &Reliability::b10dCycles,
    &Reliability::b10Cycles, &Reliability::mttfdYears, &Reliability::mttfYears, &Reliability::fitDangerous,
    &Reliability::pfhdPerHour};

Kind kindOf(const std::optional<Reliability>& r)
{
    if (!r)
        return OfPart;
    for (int k = B10d; k <= Pfhd; ++k)
        if ((*r).*kValueOf[k])
            return static_cast<Kind>(k);
    return Typical;
}

} // namespace

ReliabilityForm::ReliabilityForm(Document& document, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
{
    m_form = new QFormLayout(this);
    m_form->setContentsMargins(0, 0, 0, 0);
    m_kind = new QComboBox(this);
    m_kind->setObjectName("reliability.kind");
    m_kind->addItems(
        {tr("nothing of its own: its part of the parts list"), tr("a typical value, none from the manufacturer"),
            tr("B10d, cycles"), tr("B10, cycles (all failures)"), tr("MTTFd, years"), tr("MTTF, years (all failures)"),
            tr("FIT, dangerous failures in 1e9 hours"), tr("PFHd, PL and category of the whole device")});
    m_typical = new QComboBox(this);
    m_typical->setObjectName("reliability.typical");
    const Table& table = typicalReliabilityTable();
    for (std::size_t row = 0; row < table.rowCount(); ++row) {
        const std::string part(table.cell(row, "part")), load(table.cell(row, "load"));
        m_typical->addItem(QString::fromStdString(part + (load.empty() ? "" : ", " + load)),
            QString::fromStdString(std::string(table.cell(row, "id"))));
    }
    const auto line = [this](const char* name, const QString& hint) {
        auto* l = new QLineEdit(this);
        l->setObjectName(name);
        l->setPlaceholderText(hint);
        return l;
    };
    m_value = line("reliability.value", tr("as in 1.3e6"));
    m_share = line("reliability.share", tr("not known: one half"));
    m_source = line("reliability.source", tr("sheet, revision, table"));
    m_level = new QComboBox(this);
    m_level->setObjectName("reliability.level");
    m_level->addItems({"a", "b", "c", "d", "e"});
    m_category = new QComboBox(this);
    m_category->setObjectName("reliability.category");
    m_category->addItems({"B", "1", "2", "3", "4"});
    m_form->addRow(tr("Known is"), m_kind);
    m_form->addRow(tr("Typical for"), m_typical);
    m_form->addRow(tr("Its value"), m_value);
    m_form->addRow(tr("Share of dangerous failures"), m_share);
    m_form->addRow(tr("PL"), m_level);
    m_form->addRow(tr("Category"), m_category);
    m_form->addRow(tr("From"), m_source);
    m_trouble = plainLabel({}, theme.body(), this);
    m_trouble->setObjectName("reliability.trouble");
    m_form->addRow(m_trouble);
    m_take = new QPushButton(tr("Take it"), this);
    m_take->setObjectName("reliability.take");
    m_form->addRow(m_take);
    connect(m_kind, &QComboBox::currentIndexChanged, this, &ReliabilityForm::showKind);
    connect(m_take, &QPushButton::clicked, this, &ReliabilityForm::take);
    for (QLineEdit* l : {m_value, m_share, m_source})
        connect(l, &QLineEdit::returnPressed, this, &ReliabilityForm::take);
}

void ReliabilityForm::showKind()
{
    const int k = m_kind->currentIndex();
    m_form->setRowVisible(m_typical, k == Typical);
    m_form->setRowVisible(m_value, k >= B10d);
    m_form->setRowVisible(m_share, k == B10 || k == Mttf);
    m_form->setRowVisible(m_level, k == Pfhd);
    m_form->setRowVisible(m_category, k == Pfhd);
    m_form->setRowVisible(m_source, k >= B10d);
    m_trouble->clear();
}

void ReliabilityForm::show(DeviceId id)
{
    m_device = id;
    const Device* d = m_document.dossier().circuit.device(id);
    setEnabled(d != nullptr);
    if (!d)
        return;
    const auto& own = d->reliability;
    m_kind->setCurrentIndex(kindOf(own));
    showKind();
    const Reliability r = own.value_or(Reliability{});
    const auto text = [](const std::optional<double>& v) { return v ? QString::number(*v, 'g', 6) : QString(); };
    m_value->setText(kindOf(own) >= B10d ? text(r.*kValueOf[kindOf(own)]) : QString());
    m_share->setText(text(r.dangerousShare));
    m_source->setText(QString::fromStdString(r.source));
    m_typical->setCurrentIndex(std::max(0, m_typical->findData(QString::fromStdString(r.typicalPart))));
    m_level->setCurrentText(QString::fromStdString(std::string(safety::wordOf(r.performanceLevel))));
    m_category->setCurrentText(QString::fromStdString(std::string(safety::wordOf(r.category))));
}

/// Nothing, with the reason shown, if it is no number.
std::optional<double> ReliabilityForm::numberIn(const QLineEdit* line)
{
    bool isNumber = false;
    const double value = QLocale::c().toDouble(line->text().trimmed(), &isNumber);
    if (isNumber)
        return value;
    m_trouble->setText(tr("\"%1\" is no number. Written with a point, as in 0.5 or 2.5e-9.").arg(line->text()));
    return {};
}

void ReliabilityForm::take()
{
    m_trouble->clear();
    const int k = m_kind->currentIndex();
    std::optional<Reliability> r;
    if (k != OfPart) {
        r.emplace();
        if (k == Typical)
            r->typicalPart = m_typical->currentData().toString().toStdString();
        else if (const auto value = numberIn(m_value))
            (*r).*kValueOf[k] = *value;
        else
            return;
        if ((k == B10 || k == Mttf) && !m_share->text().trimmed().isEmpty()) {
            r->dangerousShare = numberIn(m_share);
            if (!r->dangerousShare)
                return;
        }
        if (k == Pfhd) {
            r->performanceLevel = safety::levelNamed(m_level->currentText().toStdString());
            r->category = safety::categoryNamed(m_category->currentText().toStdString());
        }
        if (k >= B10d)
            r->source = m_source->text().trimmed().toStdString();
    }
    const auto changed = edit::withReliability(m_document.dossier(), m_device, r);
    if (!changed)
        return m_trouble->setText(words::sentence(changed.error()));
    m_document.edit(tr("Reliability of a device"), [&changed](const Dossier&) { return *changed; });
    emit taken();
}

} // namespace ts::app
