#pragma once
// A page of the Faults place: what holds in every order of operation of one motor, and the shortest order that shows
// the opposite, to be played on the Bench. Works in the background with progress and can be cancelled.

#include "app/document/result_book.h"
#include "app/places/faults/result_list.h"
#include "core/exploration/explore.h"
#include "core/model/finding.h"

#include <QWidget>

class QCheckBox;
class QComboBox;
class QLabel;
class QPushButton;

namespace ts::app {

class OrdersPage : public QWidget {
    Q_OBJECT
public:
    OrdersPage(Document& document, const Theme& theme, QWidget* parent);
    void startOrCancel();
    bool isBusy() const { return m_book.isBusy(); }
    bool hasResult() const { return !m_book.isEmpty(); }
    /// What was shown wrong without any fault, of all motors explored so far.
    std::vector<Finding> findings() const;
    /// Of all motors, what holds for the dossier as it is.
    std::vector<std::shared_ptr<const exploration::Explored>> fresh() const;
    void setWithFaults(bool withFaults);
    ResultList& list() { return *m_list; }

signals:
    void finished();
    void playWanted(const std::vector<ts::Stimulus>& script, ts::TimeNs until);

private:
    struct Played {
        exploration::Explored explored;
        std::shared_ptr<const Plant> plant;
    };
    using Book = ResultBook<std::string, Played>; ///< by motor
    /// One line of the list: a proof and the faults that were present.
    struct Line {
        const exploration::Proof* proof = nullptr;
        std::vector<Fault> faults;
        QString heading;
        bool isPlayable = true; ///< not with bridged contacts and levers taken off
    };
    void takeDocument();
    void tellProgress();
    void tellState();
    void fill();
    void addMotor(const exploration::MotorExplored& motor);
    void addInterlock(const exploration::InterlockJudged& judged);
    void addProof(QTreeWidgetItem* heading, const exploration::Proof& proof, const QString& claim,
        std::vector<Fault> faults, const QString& with, bool isPlayable);
    void takeSelection();
    void play();
    std::shared_ptr<const Book::Result> current() const;
    QString tagOf(DeviceId id) const;

    Document& m_document;
    const Theme& m_theme;
    Book m_book;
    std::shared_ptr<const Circuit> m_circuit; ///< whose motors are listed
    std::vector<Line> m_lines;
    QComboBox* m_motors = nullptr;
    QCheckBox* m_faults = nullptr;
    QPushButton *m_start = nullptr, *m_bench = nullptr;
    QLabel *m_state = nullptr, *m_title = nullptr, *m_answer = nullptr, *m_order = nullptr, *m_scope = nullptr;
    ResultList* m_list = nullptr;
};

} // namespace ts::app
