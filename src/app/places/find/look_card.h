#pragma once
// The next look, large: what must be off, what is held, where the probes go, and each answer that it can have as a
// button with what it would mean; any other figure can be entered. Nothing can be answered before somebody has said
// that it is dead, or that it may be live.

#include "core/finding/finder.h"

#include "app/widgets/theme.h"

#include <QWidget>

class QCheckBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QVBoxLayout;

namespace ts::app {

class SupplyStrip;

class MeterStrip;

class LookCard : public QWidget {
    Q_OBJECT
public:
    LookCard(const Theme& theme, QWidget* parent);
    void show(const finding::Proposal& proposal, const Circuit& circuit);
    void say(const QString& sentence);
    void takeKeyboard();
    /// Nobody has said yet that it is dead, or that it may be live.
    void forget() { m_saidFor.reset(); }

signals:
    void answered(const ts::measuring::Reading& reading);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    void addAnswers(const finding::Proposal& proposal, const Circuit& circuit);
    void enterFigure();
    void allow();

    const Theme& m_theme;
    MeterStrip* m_meter = nullptr;
    measuring::Instrument m_with = measuring::Instrument::Ohms;
    bool m_isLive = false;
    std::optional<measuring::Power> m_saidFor; ///< in which state of the supply somebody said that it is so
    measuring::Power m_power = measuring::Power::LockedOff;
    SupplyStrip* m_supply = nullptr;
    QLabel *m_first = nullptr, *m_bring = nullptr, *m_look = nullptr, *m_expect = nullptr, *m_unit = nullptr,
           *m_said = nullptr;
    QCheckBox* m_isSafe = nullptr;
    QWidget *m_answers = nullptr, *m_other = nullptr;
    QVBoxLayout* m_answerColumn = nullptr;
    QLineEdit* m_figure = nullptr;
    QPushButton* m_enter = nullptr;
};

} // namespace ts::app
