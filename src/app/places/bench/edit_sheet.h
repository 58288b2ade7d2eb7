#pragma once
// One change as it is meant: its questions, and what it would mean before it is made. Enter makes it, Esc leaves it.

#include "app/document/document.h"
#include "app/places/bench/edit_trial.h"
#include "app/widgets/marks.h"
#include "core/offers/consequence.h"
#include "core/offers/offer.h"

#include <QScrollArea>

class QPushButton;
class QVBoxLayout;

namespace ts::app {

class EditSheet : public QScrollArea {
    Q_OBJECT
public:
    EditSheet(Document& document, const Theme& theme, QWidget* parent);

    void open(const offers::Picked& target, const offers::Offer& offer);
    void leave();
    bool isOpen() const { return m_isOpen; }
    /// The dossier as it would be; null while the answers are refused.
    Snapshot preview() const { return m_after; }
    EditTrial& trial() { return m_trial; }

signals:
    void previewChanged();
    void done(const QString& what); ///< made, and now in the history
    void left();

protected:
    void keyPressEvent(QKeyEvent*) override;

private:
    void addQuestion(QVBoxLayout& column, const offers::Question& question);
    offers::Answers answers() const;
    void work();
    void showMeaning(const std::vector<offers::Meaning>& meanings);
    void showTrial();
    void showFindings();
    void addLine(QVBoxLayout& column, Mark mark, const QString& text);
    void makeIt();

    Document& m_document;
    const Theme& m_theme;
    EditTrial m_trial;
    offers::Picked m_target;
    offers::Offer m_offer;
    std::vector<std::pair<std::string, QWidget*>> m_fields; ///< combo boxes and line edits by question
    QVBoxLayout* m_meaning = nullptr;
    QVBoxLayout* m_runs = nullptr;
    QPushButton* m_do = nullptr;
    QString m_title;
    Snapshot m_after;
    bool m_isOpen = false;
};

/// "Q1 21-22", "wire 35 from S1:12 to S2:13", or nothing.
QString targetName(const Circuit& circuit, const offers::Picked& target);

} // namespace ts::app
