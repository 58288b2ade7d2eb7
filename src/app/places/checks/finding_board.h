#pragma once
// All findings by what a person does next about them, and what was not looked at. One at a time is unfolded where it
// stands: what may happen, what to do, what it rests on, and who has accepted it why.

#include "app/document/study_book.h"
#include "app/widgets/tall_column.h"
#include "app/widgets/theme.h"
#include "core/checks/check.h"
#include "core/record/record.h"

#include <QLabel>
#include <QPointer>

class QVBoxLayout;

namespace ts::app {

class FindingLine;

/// What the board asks of a finding before it offers something with it.
struct FindingPowers {
    std::function<bool(const Finding&)> canPlay; ///< it rests on a run
    std::function<bool(const Finding&)> canMend; ///< changes can be tried against it
};

/// A change that was tried, as it is shown.
struct MendLine {
    QString what, brings;
};

/// A figure for want of which something was not judged.
struct MissingLine {
    QString text;
    bool canBeEntered = false;
    QString part; ///< of which its device is; empty: of none, then it is entered for the device
};

class FindingBoard : public TallColumn {
    Q_OBJECT
public:
    FindingBoard(const Theme& theme, QWidget* parent);
    void show(std::shared_ptr<const Checked> checked, const Dossier& dossier, const std::vector<RecordEntry>& record,
        FindingPowers powers);
    /// About the one that is unfolded: how far the search for a mend is, or what came of it.
    void tellMending(const QString& text, bool isBusy);
    /// What the finding about missing figures unfolds to.
    void setMissing(std::vector<MissingLine> missing);
    void showMends(const QString& text, std::vector<MendLine> mends);
    /// Nothing was checked yet, and why.
    void showNothing(const QString& why);
    /// The one that is unfolded; null: none.
    const Finding* opened() const;
    void open(const std::string& key);

signals:
    void openedChanged();
    void showWanted(const ts::Target& target);
    void playWanted(const ts::Finding& finding);
    void acceptWanted(const ts::Finding& finding, const QString& who, const QString& role, const QString& why);
    void withdrawWanted(const ts::Finding& finding, const QString& who, const QString& role, const QString& why);
    void mendsWanted(const ts::Finding& finding);
    void stopMending();
    void mendChosen(int place);
    /// A missing figure, for its device or for all of its part.
    void entered(int place, const QString& value, bool isForPart);
    void runWanted(const QString& study, const ts::Subject& subject);

protected:
    void keyPressEvent(QKeyEvent*) override;

private:
    void clear();
    void buildSoon();
    void build();
    void addGroup(Remedy remedy);
    void addFinding(const Finding& finding);
    QWidget* sheetOf(const Finding& finding);
    QWidget* entriesIn(QWidget* parent);
    QWidget* mendsOf(const Finding& finding, QWidget* parent);
    QWidget* acceptanceOf(const Finding& finding, QWidget* parent);
    void addMissing();
    QString missingText(const NotLookedAt& n) const;

    const Theme& m_theme;
    QVBoxLayout* m_column;
    std::vector<QWidget*> m_rows;
    std::vector<FindingLine*> m_lines;
    std::shared_ptr<const Checked> m_checked;
    Dossier m_dossier;
    std::vector<RecordEntry> m_record;
    FindingPowers m_powers;
    QString m_mending; ///< how the search for a mend of the unfolded one stands; empty: not asked for
    bool m_isMending = false;
    std::vector<MendLine> m_mends;
    std::vector<MissingLine> m_missing;
    QPointer<QLabel> m_mendingLabel;
    std::string m_opened; ///< key of the finding; it unfolds again when it comes back after an edit
    bool m_isDue = false; ///< to be built
    QString m_who, m_role; ///< of the last entry here
};

} // namespace ts::app
