#include "app/instruments/meter_strip.h"

#include "app/widgets/plain_text.h"
#include "app/widgets/theme.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

namespace ts::app {

MeterStrip::MeterStrip(const QString& name, const Theme& theme, QWidget* parent)
    : QWidget(parent)
{
    setObjectName(name);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    m_profile = new QComboBox(this);
    m_profile->setObjectName(name + ".profile");
    m_profile->setAccessibleName(tr("Instrument"));
    m_profile->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_profile->setMinimumContentsLength(14);
    for (const measuring::InstrumentProfile& p : measuring::instrumentProfiles())
        m_profile->addItem(QString::fromStdString(p.name));
    m_address = new QLineEdit(this);
    m_address->setObjectName(name + ".address");
    m_address->setPlaceholderText(tr("host:port or /dev/tty..."));
    m_address->setMinimumWidth(210);
    m_address->setAccessibleName(tr("Where the instrument is"));
    m_take = new QPushButton(tr("Probes are on: read it"), this);
    m_take->setObjectName(name + ".take");
    m_said = plainLabel({}, theme.small(), this);
    m_said->setObjectName(name + ".said");
    m_said->setWordWrap(true);
    row->addWidget(m_profile);
    row->addWidget(m_address);
    row->addWidget(m_take);
    row->addWidget(m_said, 1);
    connect(m_take, &QPushButton::clicked, this, &MeterStrip::take);
    connect(m_profile, &QComboBox::currentIndexChanged, this, [this] { setWanted(m_with); });
    connect(m_address, &QLineEdit::textChanged, this, [this] { setWanted(m_with); });
    connect(&m_link, &MeterLink::failed, this, [this](const QString& why) { m_said->setText(why); });
    connect(&m_link, &MeterLink::answered, this, [this](const QStringList& lines) {
        std::vector<std::string> answers;
        for (const QString& line : lines)
            answers.push_back(line.toStdString());
        const auto value = measuring::readingFrom(profile(), answers);
        m_said->setText(value ? QString() : tr("It answered \"%1\": no figure").arg(lines.join(' ')));
        if (value)
            emit reading(*value);
    });
    setWanted(m_with);
}

const measuring::InstrumentProfile& MeterStrip::profile() const
{
    return measuring::instrumentProfiles()[static_cast<std::size_t>(m_profile->currentIndex())];
}

void MeterStrip::setWanted(measuring::Instrument with)
{
    m_with = with;
    const bool measures = !profile().commandsFor(with).empty();
    m_take->setEnabled(measures && !m_address->text().trimmed().isEmpty());
    m_said->clear();
}

void MeterStrip::take()
{
    QStringList commands;
    for (const std::string& c : profile().commandsFor(m_with))
        commands << QString::fromStdString(c);
    m_said->setText(tr("asking ..."));
    m_link.ask(m_address->text(), commands);
}

} // namespace ts::app
