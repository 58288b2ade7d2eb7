#pragma once
// Practising: something is hidden in the circuit that is open, and has to be found with hands, eyes and a meter. What
// could have hurt somebody on a real panel is counted.

#include "app/document/latest.h"
#include "app/frame/place.h"
#include "core/practice/drill.h"

class QComboBox;
class QLabel;
class QPushButton;
class QSpinBox;
class QVBoxLayout;

namespace ts::app {

class MarkedDrawing;
class SupplyStrip;

class PracticePlace : public Place {
    Q_OBJECT
public:
    PracticePlace(const PlaceParts& parts, QWidget* parent);
    std::vector<PlaceView> views() override;
    QString madeUp() const override;

protected:
    void showEvent(QShowEvent*) override;

private:
    struct Session {
        practice::Drill drill;
        practice::PracticePanel panel;
        std::vector<std::pair<std::string, std::string>> log; ///< lines and answers
        bool isOver = false;
    };
    void addBegin(QVBoxLayout& column);
    void addHands(QVBoxLayout& column);
    void addMeter(QVBoxLayout& column);
    void addNaming(QVBoxLayout& column);
    QPushButton* lineButton(const QString& text, const char* line);
    void takeCircuit();
    void hide();
    void fillLists();
    void say(const QStringList& lines);
    void measure(const char* meter);
    void takeProbe(const QString& terminal);
    void name(const std::string& id);
    void showSession();

    Document& m_document;
    const Theme& m_theme;
    std::shared_ptr<const Circuit> m_circuit;
    std::shared_ptr<Session> m_session; ///< touched by one job at a time
    Latest<Expected<std::shared_ptr<Session>>> m_hiding;
    Latest<std::vector<std::pair<std::string, std::string>>> m_doing;
    bool m_isRedNext = true;
    SupplyStrip* m_supply = nullptr;
    QLabel *m_said = nullptr, *m_told = nullptr, *m_shown = nullptr, *m_log = nullptr;
    QComboBox *m_difficulty = nullptr, *m_hand = nullptr, *m_watched = nullptr, *m_red = nullptr, *m_black = nullptr,
              *m_named = nullptr;
    QSpinBox* m_seed = nullptr;
    QPushButton *m_hide = nullptr, *m_stop = nullptr;
    QWidget* m_work = nullptr;
    MarkedDrawing* m_drawing = nullptr;
};

} // namespace ts::app
