#include "app/places/bench/found_marks.h"

#include "app/words/words.h"

#include <algorithm>
#include <utility>

namespace ts::app {
namespace {

constexpr double kSide = 11.0;

/// The graver first.
int rankOf(Mark mark)
{
    return mark == Mark::Wrong ? 0 : mark == Mark::Open ? 1 : 2;
}

DeviceId deviceOf(const Finding& f, const Circuit& circuit)
{
    if (f.target.device || f.devices.empty())
        return f.target.device;
    const Device* first = circuit.device(f.devices.front());
    return first ? first->id : DeviceId{};
}

/// Where a tag beside it ends; its own right side if there is none: of three poles one has it.
double tagEnd(const diagram::Scene& scene, const diagram::Box& box)
{
    const double right = box.x + box.width;
    double end = right;
    for (const diagram::Text& t : scene.texts)
        if (t.style == diagram::TextStyle::Tag && t.at.y > box.y && t.at.y < box.y + box.height + kSide
            && t.at.x > box.x && t.at.x < right + kSide)
            end = std::max(end, t.box().x + t.box().width);
    return end;
}

} // namespace

bool FoundMarks::take(const StudyBook& book, const Dossier& dossier)
{
    const auto before = m_here;
    const auto checked = book.fresh(kChecks);
    std::vector<Known> now;
    if (checked)
        for (const Finding& f : checked->findings)
            now.push_back({f, false});
    const auto isMade = [&](const std::string& id) {
        return checked && std::any_of(checked->checks.begin(), checked->checks.end(), [&](const CheckMade& c) {
            return c.id == id && c.isWhole();
        });
    };
    if (book.isBehind())
        for (const Known& old : m_known)
            if (!isMade(old.finding.id)
                && std::none_of(now.begin(), now.end(), [&](const Known& k) { return k.finding == old.finding; }))
                now.push_back({old.finding, true});
    m_known = std::move(now);
    gather(dossier);
    return m_here != before;
}

void FoundMarks::gather(const Dossier& dossier)
{
    m_here.clear();
    for (const Known& k : m_known) {
        const DeviceId device = deviceOf(k.finding, dossier.circuit);
        if (!device)
            continue;
        const Mark mark = k.isOld ? Mark::Stale : k.finding.severity == Severity::Note ? Mark::Open : Mark::Wrong;
        const auto [place, isNew] = m_here.try_emplace(device, Here{mark, k.finding.target.element, {}});
        if (rankOf(mark) < rankOf(place->second.mark))
            place->second.mark = mark;
        place->second.said << words::sentence(k.finding.what);
    }
}

QRectF FoundMarks::boxOf(const diagram::Scene& scene, DeviceId device) const
{
    const auto here = m_here.find(device);
    if (here == m_here.end())
        return {};
    const diagram::Symbol* best = nullptr;
    std::pair<int, double> bestOf{-1, 0.0}; // how well it suits, and where its tag ends
    for (const diagram::Symbol& s : scene.symbols) {
        if (s.device != device || s.kind == diagram::SymbolKind::Port)
            continue;
        const double end = tagEnd(scene, s.box);
        const int suits = (s.role == here->second.element ? 2 : 0) + (end > s.box.x + s.box.width ? 1 : 0);
        if (suits > bestOf.first) {
            best = &s;
            bestOf = {suits, end};
        }
    }
    return best ? QRectF(bestOf.second + 2, best->box.y + (best->box.height - kSide) / 2, kSide, kSide) : QRectF();
}

void FoundMarks::paint(QPainter& p, const diagram::Scene& scene, const Theme& theme) const
{
    for (const auto& [device, here] : m_here)
        if (const QRectF box = boxOf(scene, device); !box.isNull()) {
            paintMark(p, box, here.mark, theme.colours());
        }
}

const FoundMarks::Here* FoundMarks::at(const diagram::Scene& scene, diagram::Point point) const
{
    for (const auto& [device, here] : m_here)
        if (boxOf(scene, device).contains(point.x, point.y))
            return &here;
    return nullptr;
}

} // namespace ts::app
