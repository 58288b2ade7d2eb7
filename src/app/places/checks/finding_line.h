#pragma once
// One finding as a line that unfolds: how grave it is by shape and word, what is wrong, and whether it was accepted.

#include "app/widgets/theme.h"
#include "core/model/finding.h"

#include <QAbstractButton>

namespace ts::app {

class FindingLine : public QAbstractButton {
    Q_OBJECT
public:
    FindingLine(std::string key, Severity severity, bool isAccepted, const QString& text, const QString& state,
        const Theme& theme, QWidget* parent);
    const std::string& key() const { return m_key; }
    void setOpen(bool isOpen);
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return {0, sizeHint().height()}; }

protected:
    void paintEvent(QPaintEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    std::string m_key;
    Severity m_severity;
    bool m_isAccepted, m_isOpen = false;
    QString m_state;
    const Theme& m_theme;
};

} // namespace ts::app
