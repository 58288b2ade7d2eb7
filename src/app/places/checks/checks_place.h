#pragma once
// What is the matter with it, and how much room is left: the machine walked along what feeds each motor and its control
// circuit, each part a gate as wide open as it has room, and below the findings by what to do next.

#include "app/document/latest.h"
#include "app/frame/place.h"
#include "core/mending/finding_mends.h"
#include "wording/gate_words.h"

class QLabel;

namespace ts::app {

class ChoiceWord;
class FigureView;
class FindingBoard;
struct MissingLine;

class ChecksPlace : public Place {
    Q_OBJECT
public:
    ChecksPlace(const PlaceParts& parts, QWidget* parent);
    Mark mark() const override;
    std::vector<PlaceView> views() override;

protected:
    void showEvent(QShowEvent*) override;

private:
    QWidget* walked();
    QWidget* found();
    void takeResults();
    void takeSizes();
    void takeFindings();
    void fillMotors(const sizing::Sized& sized);
    void showWays();
    void showGate();
    void takeOpened();
    void play(const Finding& finding);
    void findMends(const Finding& finding);
    void takeMends(const Expected<mending::FindingMends>& mends);
    void mend(int place);
    void dropMends();
    std::vector<MissingLine> missingLines() const;
    void enterFigure(int place, const QString& value, bool isForPart);
    void enter(const char* kind, const Finding& finding, const QString& who, const QString& role, const QString& why);

    Document& m_document;
    Selection& m_selection;
    StudyBook& m_book;
    const Theme& m_theme;
    std::shared_ptr<const sizing::Sized> m_sized;
    Snapshot m_of; ///< what that was sized from
    wording::GateSheet m_sheet;
    DeviceId m_motor; ///< whose ways are shown
    ChoiceWord* m_which = nullptr;
    FigureView* m_view = nullptr;
    QLabel *m_gate = nullptr, *m_rest = nullptr;
    FindingBoard* m_board = nullptr;
    std::vector<mending::FindingMend> m_mends; ///< tried on the dossier as it is
    Latest<Expected<mending::FindingMends>> m_mending;
};

} // namespace ts::app
