#pragma once
// What offers look at: the wired circuit as a graph, which end of an element is ahead, and what follows from them.
// Internal to offers/.

#include "core/diagram/scene.h"
#include "core/diagram/wired_graph.h"
#include "core/edit/device_edits.h"
#include "core/offers/cutting.h"
#include "core/offers/offer.h"

#include <optional>
#include <set>

namespace ts::offers {

/// A contact, pole or load between two terminals; `upper` is the end that current reaches first as it is drawn.
struct Sighted {
    const diagram::GraphEdge* edge = nullptr;
    TerminalRef upper, lower;
};

class Sight {
public:
    Sight(Sight&&) = default;
    Sight& operator=(Sight&&) = default;
    /// Fails with what the device kinds refuse. The dossier must outlive it.
    static Expected<Sight> of(const Dossier& dossier);

    const Dossier& dossier() const { return *m_dossier; }
    const Circuit& circuit() const { return m_dossier->circuit; }
    const diagram::WiredGraph& graph() const { return m_graph; }
    const Device* device(const Picked& t) const { return circuit().device(t.device); }

    /// The control element drawn for a device and role; none for poles and what is not wired.
    std::optional<Sighted> element(DeviceId device, const std::string& role) const;
    const std::vector<Sighted>& elements() const { return m_elements; }
    int netOf(const TerminalRef& terminal) const;
    bool isRail(int net) const { return m_graph.nets[static_cast<std::size_t>(net)].isRail; }

    /// Elements whose upper end is on the net, in the order they are drawn.
    std::vector<Sighted> below(int net) const;
    /// The net's terminals at the upper and lower ends of elements.
    std::vector<TerminalRef> upperEndsOn(int net) const;

    /// Contacts through which current reaches an element as it is drawn, the nearest first; rails end the search.
    std::vector<Sighted> ahead(const Sighted& element) const;
    /// Elements that current reaches through a contact, itself left out; loads end the search, so do rails.
    std::vector<Sighted> behind(const Sighted& element) const;

    /// Control elements that hang together with one over nets that are no rails, loads included but not crossed.
    std::vector<Sighted> companions(const Sighted& element) const;

    /// In series with its neighbour: nothing else joins at one of its ends, or there is no other way between its ends.
    bool standsInSeries(const Sighted& element) const;

    /// The coil of a contactor or relay, if it has one that is wired.
    std::optional<Sighted> coil(DeviceId device) const;
    /// A terminal of the live rail that feeds an element, found upwards; none if no rail is reached.
    std::optional<TerminalRef> liveRailAbove(const Sighted& element) const;

private:
    Sight() = default;
    const Dossier* m_dossier = nullptr;
    diagram::WiredGraph m_graph;
    std::vector<Sighted> m_elements;
    std::map<TerminalRef, int> m_netOf;
};

/// "Q1 21-22" as a message.
Message elementName(const Circuit& circuit, DeviceId device, const std::string& role);

/// What can be put into a path: free contacts, contacts of an add-on block, new devices. `without` stands out of the
/// list.
std::vector<Choice> whatToPutIn(const Sight& sight, DeviceId without = {});
/// The same with closing or opening contacts of one device only, the free ones first.
std::vector<Choice> contactsOf(const Sight& sight, DeviceId device, ContactKind kind);
/// The answer made real: the file with the contact there, still without wires, and its ends.
struct PutIn {
    DossierFile file;
    edit::Ends ends;
    ElementRef contact;
};
Expected<PutIn> putIn(const DossierFile& file, const std::string& answer);

/// One contact in series right at a terminal, or in parallel between two.
Expected<DossierFile> inSeriesAt(
    const DossierFile& file, const std::vector<TerminalRef>& behind, const std::string& what);
Expected<DossierFile> inParallel(
    const DossierFile& file, const TerminalRef& from, const TerminalRef& to, const std::string& what);

/// An element out of its path: its gap closed, or left open.
Expected<DossierFile> takenOut(const DossierFile& file, const Sighted& element, bool closesGap);

std::string answerTo(const Answers& answers, const std::string& question);

} // namespace ts::offers
