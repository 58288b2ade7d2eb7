#pragma once
// Which instrument is asked and where, and the button that takes a reading from it.

#include "app/instruments/meter_link.h"
#include "core/measuring/instruments.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace ts::app {

class Theme;

class MeterStrip : public QWidget {
    Q_OBJECT
public:
    MeterStrip(const QString& name, const Theme& theme, QWidget* parent);
    /// What is to be read next: the last reading was of other probes.
    void setWanted(measuring::Instrument with);
    const measuring::InstrumentProfile& profile() const;

signals:
    void reading(double value); ///< in the unit of the instrument that is wanted

private:
    void take();

    MeterLink m_link;
    measuring::Instrument m_with = measuring::Instrument::Ohms;
    QComboBox* m_profile = nullptr;
    QLineEdit* m_address = nullptr;
    QPushButton* m_take = nullptr;
    QLabel* m_said = nullptr;
};

} // namespace ts::app
