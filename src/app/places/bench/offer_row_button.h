#pragma once
// One thing that can be meant with what is selected, as a row to click; it shows the letter that does the same.

#include "app/widgets/theme.h"
#include "core/offers/offer.h"

#include <QAbstractButton>

namespace ts::app {

class OfferRowButton : public QAbstractButton {
    Q_OBJECT
public:
    OfferRowButton(const offers::Offer& offer, const Theme& theme, QWidget* parent);
    QSize sizeHint() const override { return {200, 22}; }

protected:
    void paintEvent(QPaintEvent*) override;
    void enterEvent(QEnterEvent*) override { update(); }
    void leaveEvent(QEvent*) override { update(); }

private:
    const Theme& m_theme;
    char m_key;
};

/// How a key is written beside an offer.
QString keyName(char key);

} // namespace ts::app
