#pragma once
// What was seen before anybody measured: what hands did, and what did or did not come of it; and what the machine was
// until now. Put together from what the panel has, so that nothing has to be spelled.

#include "app/widgets/theme.h"
#include "core/finding/finder.h"

#include <QWidget>

class QButtonGroup;
class QComboBox;
class QLabel;
class QPushButton;

namespace ts::app {

class SymptomStrip : public QWidget {
    Q_OBJECT
public:
    SymptomStrip(const Theme& theme, QWidget* parent);
    void setPlant(const Plant& plant);
    /// What was told so far, in words; whether the search goes on already.
    void showTold(const QStringList& lines, bool isBegun);
    finding::History history() const;
    void takeKeyboard();

signals:
    void told(const QString& symptom); ///< as finding::symptomsFrom() reads it
    void takenBack(); ///< the last one
    void historyChanged();
    void started(); ///< with nothing told

private:
    void fillStates();
    void addHand();
    void showDone();
    void tell();

    std::vector<std::pair<std::string, std::vector<std::string>>> m_states; ///< by device
    QStringList m_done; ///< "operate S2"
    QButtonGroup* m_history = nullptr;
    QComboBox *m_hand = nullptr, *m_device = nullptr, *m_isNot = nullptr, *m_state = nullptr;
    QLabel *m_doneText = nullptr, *m_told = nullptr;
    QPushButton *m_add = nullptr, *m_clear = nullptr, *m_tell = nullptr, *m_back = nullptr, *m_start = nullptr;
};

} // namespace ts::app
