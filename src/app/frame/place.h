#pragma once
// A place of the window: what the shell needs to know of it, and how it asks for what other places have. No place knows
// another: it asks with a Target, and the shell finds who shows it. To add one: a folder with its class, a line in
// shell/all_places.cpp and one in src/modules.txt.

#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/document/study_book.h"
#include "app/frame/actions.h"
#include "app/frame/search_item.h"
#include "app/widgets/marks.h"
#include "app/words/words.h"
#include "core/model/target.h"
#include "core/simulation/advance.h"

#include <QWidget>

#include <optional>

namespace ts::app {

/// What places are made of.
struct PlaceParts {
    Document& document;
    Selection& selection;
    StudyBook& book;
    const Theme& theme;
};

/// A view of a place that can be made a picture of.
struct PlaceView {
    QString name; ///< "levels.reach"
    std::function<void()> show; ///< brings it forth, and starts what it works out
    std::function<bool()> isReady; ///< what it works out is there; empty: at once
};

class Place : public QWidget {
    Q_OBJECT
public:
    Place(const QString& id, const QString& title, QWidget* parent);
    const QString& id() const { return m_id; }
    const QString& title() const { return m_title; }

    virtual std::vector<ActionSpec> actions() { return {}; }
    virtual std::vector<SearchItem> searchItems() { return {}; }
    virtual Mark mark() const { return Mark::Untouched; }
    /// What is made up here for a while and must not be taken for the machine, in one line; empty: nothing is.
    virtual QString madeUp() const { return {}; }
    /// Whether this is where such a thing is looked at.
    virtual bool canShow(const Target&) const { return false; }
    virtual void showTarget(const Target&) { }
    /// Whether it runs scripts.
    virtual bool canPlay() const { return false; }
    virtual void play(const std::vector<Stimulus>&, TimeNs) { }
    /// Another circuit beside the one that it runs, operated alike.
    virtual void putBeside(const Circuit&, const QString&) { }
    virtual void setHabits(const wording::Habits&) { }
    /// A dossier was just made here, not read from a file: what can be added to it by itself.
    virtual void welcomeNew() { }
    enum class Drawing : std::uint8_t { Power, Control };
    /// The circuit drawing that stands on it; none on most places.
    virtual std::optional<Drawing> drawingShown() const { return std::nullopt; }
    virtual std::vector<PlaceView> views()
    {
        return {{m_id, [] {}, {}}};
    }

signals:
    /// Something that is looked at elsewhere.
    void targetWanted(const ts::Target& target);
    /// Play this up to a time, wherever scripts are run.
    void playWanted(const std::vector<ts::Stimulus>& script, ts::TimeNs until);
    /// One of its actions wants it in sight.
    void placeWanted();
    /// Somebody wants this as a new dossier.
    void dossierWanted(const ts::DossierFile& file);
    /// Somebody wants to see this run beside what is open, operated alike.
    void besideWanted(const ts::Circuit& circuit, const QString& name);
    /// What came of something that somebody asked for, in a sentence.
    void said(const QString& sentence);
    /// What it can do, or how it stands, is another.
    void stateChanged();

private:
    QString m_id, m_title;
};

/// How far the studies are on which a place rests: what to show where there is no finding.
Mark markWithoutFindings(
    const StudyBook& book, const Dossier& dossier, std::initializer_list<std::string_view> studies);
/// Of the findings with one of these aspects: Wrong if any is to be mended, Open if there are notes only; none without
/// any.
std::optional<Mark> markOfFindings(const StudyBook& book, std::initializer_list<Target::Aspect> aspects);

} // namespace ts::app
