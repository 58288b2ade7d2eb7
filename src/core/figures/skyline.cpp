#include "core/figures/skyline.h"

#include <algorithm>
#include <cmath>

namespace ts::figures {
namespace {

constexpr double kLeft = 44, kRight = 44, kTop = 62, kCloseTop = 36, kKey = 26;
constexpr double kFacts = 158; ///< below the ground of a wide row
constexpr double kCloseFacts = 46;
constexpr double kLeastBand = 13; ///< a lower one bears no letter
constexpr double kPlatform = 9, kGap = 10;
struct Band {
    const char* name;
    double from, to; ///< PFHd
};
constexpr std::array kBands{Band{"a", 1e-4, 1e-5}, Band{"b", 1e-5, 3e-6}, Band{"c", 3e-6, 1e-6}, Band{"d", 1e-6, 1e-7},
    Band{"e", 1e-7, kSkylineBest}}; ///< ISO 13849-1 table 2

/// One row of towers between its top and its ground.
struct Row {
    double top = 0, ground = 0;
    double y(double pfhd) const
    {
        const double share = std::log10(kSkylineWorst / std::clamp(pfhd, kSkylineBest, kSkylineWorst))
            / std::log10(kSkylineWorst / kSkylineBest);
        return ground - share * (ground - top);
    }
};

class Builder {
public:
    Builder(const std::vector<Tower>& towers, const SkylineWords& words, double width, int chosen)
        : m_towers(towers)
        , m_words(words)
        , m_chosen(chosen)
    {
        m_figure.width = width;
    }

    Figure built(double height)
    {
        const std::size_t n = m_towers.size();
        const bool isWide = n <= kWideTowers;
        const std::size_t across = isWide
            ? std::max<std::size_t>(n, 1)
            : std::clamp<std::size_t>(static_cast<std::size_t>((m_figure.width - kLeft - kRight) / 104.0), 4, 12);
        const std::size_t rows = isWide ? 1 : (n + across - 1) / across;
        const double facts = isWide ? kFacts : kCloseFacts;
        const double rowHeight = std::max(
            (height - kKey) / static_cast<double>(rows), isWide ? kTop + facts + 180 : kLeastRow);
        m_figure.height = rowHeight * static_cast<double>(rows) + kKey;
        for (std::size_t r = 0; r < rows; ++r) {
            const double y = rowHeight * static_cast<double>(r);
            const Row row{y + (isWide || r == 0 ? kTop : kCloseTop), y + rowHeight - facts};
            scale(row, r == 0);
            const double step = (m_figure.width - kLeft - kRight)
                / static_cast<double>(isWide ? std::max<std::size_t>(across, 2) : across);
            for (std::size_t k = r * across; k < std::min(n, (r + 1) * across); ++k)
                tower(k, row, kLeft + step * static_cast<double>(k - r * across), step, y, rowHeight, isWide);
            m_figure.line({kLeft, row.ground}, {m_figure.width - kRight, row.ground}, Ink::Ink, 2);
        }
        m_figure.label({kLeft, m_figure.height - 9}, m_words.key, LabelSize::Small, Ink::Quiet, Align::Left,
            m_figure.width - kLeft - 8);
        return std::move(m_figure);
    }

    Figure alone(double height)
    {
        m_figure.height = height;
        const Row row{kTop, height - 24};
        scale(row, true);
        tower(0, row, kLeft, m_figure.width - kLeft - kRight, 0, height, false);
        m_figure.line({kLeft, row.ground}, {m_figure.width - kRight, row.ground}, Ink::Ink, 2);
        return std::move(m_figure);
    }

private:
    void scale(const Row& row, bool isFirst)
    {
        if (isFirst)
            m_figure.label({8, row.top - 44}, m_words.axis, LabelSize::Small, Ink::Quiet);
        for (const Band& b : kBands) {
            const double low = row.y(b.from), high = row.y(b.to);
            if (low - high >= kLeastBand)
                m_figure.label({20, (low + high) / 2 + 5}, b.name, LabelSize::Bold, Ink::Quiet, Align::Middle);
            m_figure.line({kLeft, high}, {m_figure.width - kRight, high}, Ink::Line);
        }
        for (const auto& [limit, text] :
            {std::pair{1e-5, "1e-5"}, {1e-6, "1e-6"}, {1e-7, "1e-7"}, {1e-8, "1e-8"}, {1e-9, "1e-9"}})
            m_figure.label({m_figure.width - kRight + 6, row.y(limit) + 4}, text, LabelSize::Figures, Ink::Quiet);
    }

    void tower(std::size_t k, const Row& row, double x, double step, double top, double height, bool isWide)
    {
        const Tower& t = m_towers[k];
        const Area cell{x, top + 4, step, height - 8};
        if (static_cast<int>(k) == m_chosen)
            m_figure.box({cell.x + 2, cell.y, cell.width - 4, cell.height}, Ink::Panel, Ink::Ink, 1.5);
        const double width = std::min(
                         step - 48.0, 40.0 + 30.0 * static_cast<double>(std::max<std::size_t>(t.pillars.size(), 2))),
                     left = x + (step - width) / 2;
        const double platform = t.pfhdPerHour && t.hasLevel
            ? row.y(*t.pfhdPerHour)
            : row.ground - std::min(26.0, 0.07 * (row.ground - row.top));
        pillars(t, row, left, width, platform);
        if (t.claimedPfhdPerHour)
            m_figure.outline(
                {left - 5, row.y(*t.claimedPfhdPerHour), width + 10, row.ground - row.y(*t.claimedPfhdPerHour)},
                Ink::Claimed, 1);
        pennant(t, row, left, width, platform);
        const double above = highest(t, row, platform) - 9;
        m_figure.label({x + step / 2, std::max(above, row.top - (isWide ? 18.0 : 4.0))},
            t.hasLevel ? t.level : m_words.equipment,
            t.hasLevel ? (isWide ? LabelSize::Verdict : LabelSize::Bold) : LabelSize::Body,
            !t.hasLevel                         ? Ink::Quiet
                : t.requiredBelow && !t.reaches ? Ink::Missing
                                                : Ink::Ink,
            Align::Middle, step - 6);
        facts(t, row, x, step, isWide);
        m_figure.spots.push_back({cell, static_cast<int>(k), t.words});
    }

    /// The weakest pillar is the darkest.
    void pillars(const Tower& t, const Row& row, double left, double width, double platform)
    {
        const std::size_t n = std::max<std::size_t>(t.pillars.size(), 1);
        const double each = (width - kGap * static_cast<double>(n - 1)) / static_cast<double>(n);
        double worst = 0;
        for (const Pillar& p : t.pillars)
            worst = std::max(worst, p.pfhdPerHour.value_or(1.0));
        for (std::size_t k = 0; k < t.pillars.size(); ++k) {
            const Pillar& p = t.pillars[k];
            const double x = left + (each + kGap) * static_cast<double>(k);
            const bool isWeakest = p.pfhdPerHour.value_or(1.0) >= worst * (1 - 1e-9);
            const Area body{x, platform + kPlatform, each, row.ground - platform - kPlatform};
            if (!t.hasLevel || t.isClaimedOnly || !p.pfhdPerHour)
                m_figure.outline(
                    body, p.pfhdPerHour || !t.hasLevel ? Ink::Quiet : Ink::Missing, isWeakest && t.hasLevel ? 2.5 : 1);
            else
                m_figure.box(body, isWeakest ? Ink::Ink : Ink::Shade);
            if (!t.hasLevel || !p.pfhdPerHour)
                continue;
            const double tip = row.y(*p.pfhdPerHour), middle = x + each / 2;
            if (tip < platform - 1) {
                m_figure.line({middle, platform}, {middle, tip}, Ink::Quiet);
                m_figure.line({middle - 4, tip}, {middle + 4, tip}, Ink::Quiet);
            }
        }
        const Area deck{left - 6, platform, width + 12, kPlatform};
        if (t.hasLevel && t.pfhdPerHour && !t.isClaimedOnly)
            m_figure.box(deck, Ink::Ink);
        else
            m_figure.outline(deck, t.hasLevel && !t.pfhdPerHour ? Ink::Missing : Ink::Quiet, 1.5);
    }

    void pennant(const Tower& t, const Row& row, double left, double width, double platform)
    {
        if (!t.requiredBelow || !t.hasLevel)
            return;
        const double y = row.y(*t.requiredBelow), right = left + width + 12;
        const Ink ink = t.reaches ? Ink::Reached : Ink::Missing;
        m_figure.line({left - 12, y}, {right, y}, ink, 2, true);
        if (!t.reaches && platform > y)
            m_figure.hatch({left, y, width, platform - y}, Ink::Missing);
        Shape flag;
        flag.points = {{right, y}, {right + 10, y - 6}, {right + 10, y + 6}};
        flag.isClosed = flag.isFilled = true;
        flag.fill = ink;
        flag.width = 0;
        m_figure.shapes.push_back(std::move(flag));
    }

    static double highest(const Tower& t, const Row& row, double platform)
    {
        double y = platform;
        for (const Pillar& p : t.pillars)
            if (t.hasLevel && p.pfhdPerHour)
                y = std::min(y, row.y(*p.pfhdPerHour));
        if (t.requiredBelow && t.hasLevel)
            y = std::min(y, row.y(*t.requiredBelow) - 2);
        if (t.claimedPfhdPerHour)
            y = std::min(y, row.y(*t.claimedPfhdPerHour));
        return y;
    }

    void facts(const Tower& t, const Row& row, double x, double step, bool isWide)
    {
        const double middle = x + step / 2;
        m_figure.label({middle, row.ground + (isWide ? 20 : 16)}, t.name, isWide ? LabelSize::Bold : LabelSize::Small,
            Ink::Ink, Align::Middle, step - 4);
        if (!isWide) {
            if (row.ground + kCloseFacts <= m_figure.height) // alone there is no room for them
                counts(t, {x + 8, row.ground + 24}, step - 16);
            return;
        }
        m_figure.label({middle, row.ground + 37}, t.about, LabelSize::Small, Ink::Quiet, Align::Middle, step - 8);
        const double inner = std::min(step - 20, 250.0), left = middle - inner / 2;
        double y = row.ground + 60;
        for (const auto& [what, value] :
            {std::pair{m_words.needs, t.needs}, {m_words.stop, t.stop}, {m_words.due, t.due}}) {
            m_figure.label({left, y}, what, LabelSize::Small, Ink::Quiet);
            m_figure.label({left + inner, y}, value, LabelSize::Small, Ink::Ink, Align::Right, inner - 48);
            y += 18;
        }
        m_figure.label({left, y}, m_words.faults, LabelSize::Small, Ink::Quiet);
        if (t.faults)
            counts(t, {left, y + 8}, inner);
        if (!t.faultsNote.empty())
            m_figure.label({left + inner, y}, t.faultsNote, LabelSize::Small, Ink::Ink, Align::Right);
    }

    /// Shapes tell them apart: a notched square pale and full, a hollow one, a broken one.
    void counts(const Tower& t, Position at, double width)
    {
        if (!t.faults)
            return;
        const double step = width / 4;
        for (std::size_t k = 0; k < 4; ++k) {
            const Position p{at.x + step * static_cast<double>(k), at.y};
            mark(k, p);
            m_figure.label({p.x + 13, p.y + 10}, std::to_string((*t.faults)[k]), LabelSize::Figures,
                k == 3 && (*t.faults)[k] > 0 ? Ink::Missing : Ink::Ink);
        }
    }

    void mark(std::size_t outcome, Position p)
    {
        Shape s;
        s.isClosed = true;
        if (outcome < 2) { // notched corner
            s.points = {{p.x, p.y}, {p.x + 6, p.y}, {p.x + 10, p.y + 4}, {p.x + 10, p.y + 10}, {p.x, p.y + 10}};
            s.stroke = Ink::Reached;
            s.fill = Ink::Reached;
            s.isFilled = outcome == 1;
        } else if (outcome == 2) {
            s.points = {{p.x + 1, p.y + 1}, {p.x + 9, p.y + 1}, {p.x + 9, p.y + 9}, {p.x + 1, p.y + 9}};
            s.stroke = Ink::Open;
            s.width = 2;
        } else { // broken
            s.points = {{p.x, p.y}, {p.x + 10, p.y}, {p.x + 6, p.y + 5}, {p.x + 10, p.y + 10}, {p.x, p.y + 10}};
            s.stroke = s.fill = Ink::Missing;
            s.isFilled = true;
        }
        m_figure.shapes.push_back(std::move(s));
    }

    const std::vector<Tower>& m_towers;
    const SkylineWords& m_words;
    int m_chosen;
    Figure m_figure;
};

} // namespace

Figure skyline(const std::vector<Tower>& towers, const SkylineWords& words, double width, double height, int chosen)
{
    return Builder(towers, words, width, chosen).built(height);
}

Figure singleTower(const Tower& tower, const SkylineWords& words, double width, double height)
{
    const std::vector<Tower> one{tower};
    return Builder(one, words, width, -1).alone(height);
}

} // namespace ts::figures
