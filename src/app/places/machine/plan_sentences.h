#pragma once
// The machine in sentences whose words are the choices: what moves and who reaches in, each motor with its starter,
// what stops all of them, from what they are fed. What nobody chose follows the advice (core/patterns/advice.h).

#include "app/widgets/word_flow.h"
#include "core/patterns/choices.h"

#include <functional>
#include <map>

class QLabel;
class QVBoxLayout;

namespace ts::app {

class PlanSentences : public QWidget {
    Q_OBJECT
public:
    PlanSentences(const Theme& theme, QWidget* parent);

    /// Only what was said, as MachinePlan::from takes it.
    std::vector<std::string> said() const;
    const patterns::MachinePlan& plan() const { return m_plan; }
    /// Begins anew: with what a file keeps, all of it said; or with nothing said. What it keeps must be a plan.
    void begin(const PlannedMachine& kept);
    void take(const patterns::ChoiceName& choice, const std::string& word);
    /// Stands under the last sentence.
    void setFoot(QWidget* foot);

signals:
    void changed();
    void looked(const ts::patterns::ChoiceName& choice); ///< the keyboard is at this choice now

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    struct Clause;
    using Sentence = std::vector<Clause>;
    /// A choice in its sentence.
    struct Word {
        patterns::ChoiceName choice;
        std::vector<QWidget*> fields, around; ///< around: the words of its clause
        std::function<void(const std::string&)> show;
    };
    static std::vector<Sentence> firstSentences();
    static std::vector<Sentence> starterSentences(int number);
    static std::vector<Sentence> lastSentences();
    void rebuild();
    void addSentences(const std::vector<Sentence>& sentences, int starter);
    void addStarter(int number);
    void addWord(WordFlow& flow, const patterns::ChoiceName& choice);
    void addToggles(WordFlow& flow, const patterns::PlanChoice& choice, Word& word);
    void addStarterAtEnd();
    void nameStarters();
    void drop(int starter);
    void show();
    void watch(QWidget* field, const patterns::ChoiceName& choice);

    const Theme& m_theme;
    std::map<std::string, std::string> m_said; ///< by kept name
    patterns::MachinePlan m_plan;
    std::vector<Word> m_words;
    std::map<QObject*, patterns::ChoiceName> m_choiceOf;
    QVBoxLayout* m_column = nullptr;
    QWidget* m_inside = nullptr;
    QLabel* m_required = nullptr;
    QVBoxLayout* m_all = nullptr; ///< the sentences, then the foot
};

} // namespace ts::app
