#pragma once
// A panel that exists, typed line by line as it is read off. Each line that is understood becomes an edit of the
// dossier; one that is not stays where it was typed, with what is missing under it. Nothing is asked in a box.

#include "app/frame/place.h"
#include "app/widgets/word_flow.h"
#include "core/notes/taking.h"

class QGridLayout;
class QLabel;
class QListWidget;
class QPlainTextEdit;
class QPushButton;
class QVBoxLayout;

namespace ts::app {

class PlanDrawing;

class NotesPage : public QWidget {
    Q_OBJECT
public:
    NotesPage(const PlaceParts& parts, QWidget* parent);
    const notes::Pad& pad() const { return m_pad; }

signals:
    void emptyPanelWanted();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void showEvent(QShowEvent* event) override;

private:
    /// A line that was taken, and where the history of the document stood then.
    struct Entry {
        QString text;
        int index = 0;
    };

    QWidget* typingSide();
    QWidget* drawingSide();
    void takeLines();
    void keep(const QString& line, const notes::Taken& taken);
    void answer(const std::vector<std::string>& words);
    void ask(const notes::Asked& asked);
    void askKind(const notes::Asked& asked);
    void askValues(const notes::Asked& asked);
    void askContact(const notes::Asked& asked);
    void say(const QString& text);
    void clearQuestion();
    void showCompletions();
    void complete(const QString& word);
    void chooseRoute(int index);
    void layTheRest();
    void showEntries();
    void showEntry(int row, const Entry& entry);
    void showState();
    void takeDocument();
    void takeLoaded();

    Document& m_document;
    const Theme& m_theme;
    notes::Pad m_pad;
    std::optional<notes::Asked> m_asked;
    std::vector<std::string> m_offered; ///< words that could go on
    QStringList m_before; ///< what was there before anybody typed, as lines
    std::vector<Entry> m_entries;
    bool m_isTaking = false; ///< an edit of ours is on its way
    std::set<DeviceId> m_newDevices;
    std::set<TerminalRef> m_newTerminals;

    QListWidget* m_list = nullptr;
    QPlainTextEdit* m_typed = nullptr;
    QLabel *m_count = nullptr, *m_question = nullptr, *m_powerHead = nullptr, *m_controlHead = nullptr;
    ChoiceWord* m_route = nullptr;
    QPushButton* m_layRest = nullptr;
    WordFlow *m_completions = nullptr, *m_answers = nullptr;
    PlanDrawing *m_power = nullptr, *m_control = nullptr;
};

} // namespace ts::app
