#pragma once
// It stopped, or a step of the tests deviates: what was seen, the next look with its answers, what was read, and in the
// drawing what is still suspected.

#include "app/document/latest.h"
#include "app/frame/place.h"
#include "core/finding/finder.h"

class QCheckBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace ts::app {

class LookCard;
class MarkedDrawing;
class SymptomStrip;

class FindPlace : public Place {
    Q_OBJECT
public:
    FindPlace(const PlaceParts& parts, QWidget* parent);
    std::vector<PlaceView> views() override;

protected:
    void showEvent(QShowEvent*) override;

private:
    struct Stand { ///< after each thing told or read
        finding::Finder finder;
        finding::Finding finding;
    };
    using Thinking = Latest<Expected<std::shared_ptr<const Stand>>>;

    QWidget* sideColumn();
    void begin();
    void tell(const QString& symptom);
    void answer(const measuring::Reading& reading);
    void takeBack();
    void take(const Expected<std::shared_ptr<const Stand>>& stand);
    void showStand();
    void showTrail();
    void keep();
    void forgetAll();
    void takeCircuit();

    std::vector<finding::Taken> readInTests() const; ///< the last reading of each step, if some step is not as expected

    Document& m_document;
    StudyBook& m_book;
    const Theme& m_theme;
    std::shared_ptr<const Circuit> m_circuit; ///< that is searched in
    std::vector<std::shared_ptr<const Stand>> m_stands; ///< the first one with what was told, then one by reading
    std::shared_ptr<const Plant> m_plant; ///< of it; null if it cannot be compiled
    std::vector<std::vector<finding::Symptom>> m_symptoms;
    Thinking m_thinking;
    QLabel *m_said = nullptr, *m_found = nullptr, *m_trail = nullptr, *m_caution = nullptr;
    QPushButton *m_back = nullptr, *m_keep = nullptr, *m_anew = nullptr, *m_stop = nullptr;
    QCheckBox* m_withTests = nullptr;
    QLineEdit* m_who = nullptr;
    SymptomStrip* m_strip = nullptr;
    LookCard* m_card = nullptr;
    MarkedDrawing* m_drawing = nullptr;
    QWidget* m_work = nullptr;
};

} // namespace ts::app
