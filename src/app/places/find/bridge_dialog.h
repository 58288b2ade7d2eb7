#pragma once
// Before two terminals are bridged: what is lost by it, who answers for it and until when; and those that are in force,
// to be taken out again.

#include "app/document/document.h"
#include "app/document/latest.h"
#include "app/widgets/theme.h"
#include "core/analysis/bridge.h"

#include <QDialog>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QVBoxLayout;

namespace ts::app {

class BridgeDialog : public QDialog {
    Q_OBJECT
public:
    BridgeDialog(Document& document, const Theme& theme, QWidget* parent);

private:
    void addEnds(QVBoxLayout& column);
    void addEntry(QVBoxLayout& column);
    void fillTerminals();
    void ask();
    void showCost(const Expected<BridgeCost>& cost);
    void enter();
    void showInForce();
    void takeOff(const Bypass& bypass, const QString& tested);
    void add(RecordEntry entry);

    Document& m_document;
    const Theme& m_theme;
    Latest<Expected<BridgeCost>> m_working;
    QComboBox *m_from = nullptr, *m_to = nullptr;
    QPushButton *m_ask = nullptr, *m_enter = nullptr;
    QLabel* m_cost = nullptr;
    QLineEdit *m_who = nullptr, *m_owner = nullptr, *m_until = nullptr, *m_reason = nullptr;
    QWidget* m_inForce = nullptr;
    QVBoxLayout* m_list = nullptr;
};

} // namespace ts::app
