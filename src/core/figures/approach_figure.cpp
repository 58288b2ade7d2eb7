#include "core/figures/approach_figure.h"

#include <fmt/format.h>

#include <algorithm>

namespace ts::figures {
namespace {

constexpr double kLeft = 4, kRight = 84, kBar = 16, kLine = 18;

/// Three figures, as everywhere: "54.6 ms", "10.7 s".
std::string timeWords(double s)
{
    return s < 1.0 ? fmt::format("{:#.3g} ms", s * 1000.0) : fmt::format("{:#.3g} s", s);
}

std::string metreWords(double m)
{
    return fmt::format("{:.2f} m", m);
}

class ApproachDrawing {
public:
    ApproachDrawing(const ApproachContent& content, const ApproachWords& words, double width)
        : m_content(content)
        , m_words(words)
    {
        m_figure.width = width;
        double longest = std::max(content.countsS, content.allowedS);
        for (const ApproachPart& p : content.others)
            longest = std::max(longest, p.seconds);
        m_perSecond = longest > 0 ? (width - kLeft - kRight) / longest : 0;
    }

    Figure drawn()
    {
        if (m_perSecond <= 0) {
            m_figure.label({0, 16}, m_words.none, LabelSize::Body, Ink::Quiet, Align::Left, m_figure.width);
            m_figure.height = 24;
            return std::move(m_figure);
        }
        parts();
        for (const ApproachPart& p : m_content.others)
            other(p);
        const double barsEnd = m_y;
        if (m_content.allowedS > 0) {
            const double x = kLeft + m_content.allowedS * m_perSecond;
            const Ink ink = m_content.countsS > m_content.allowedS ? Ink::Missing : Ink::Reached;
            m_figure.line({x, 0}, {x, barsEnd}, ink, 2, true);
            m_figure.label({x + 5, 12}, m_words.allowed, LabelSize::Small, ink);
            m_figure.label({x + 5, 26}, timeWords(m_content.allowedS), LabelSize::Figures, ink);
        }
        distance();
        m_figure.height = m_y + 4;
        return std::move(m_figure);
    }

private:
    /// One bar of several tones, its words below in the same order.
    void parts()
    {
        double x = kLeft;
        bool isDark = true;
        for (const ApproachPart& p : m_content.parts) {
            const double length = p.seconds * m_perSecond;
            if (length > 0)
                m_figure.box({x, m_y, std::max(1.0, length), kBar}, isDark ? Ink::Ink : Ink::Shade, Ink::Panel, 1);
            x += length;
            isDark = !isDark;
        }
        m_y += kBar + 14;
        isDark = true;
        for (const ApproachPart& p : m_content.parts) {
            m_figure.box({kLeft, m_y - 9, 9, 9}, isDark ? Ink::Ink : Ink::Shade);
            m_figure.label({kLeft + 15, m_y}, p.name + "  " + timeWords(p.seconds), LabelSize::Small, Ink::Ink,
                Align::Left, m_figure.width - kLeft - 16);
            m_y += kLine;
            isDark = !isDark;
        }
        m_y -= 6;
    }

    void other(const ApproachPart& p)
    {
        m_figure.outline({kLeft, m_y, std::max(2.0, p.seconds * m_perSecond), 7}, Ink::Ink, 1.2);
        m_y += 21;
        m_figure.label({kLeft + 15, m_y}, p.name + "  " + timeWords(p.seconds), LabelSize::Small, Ink::Ink, Align::Left,
            m_figure.width - kLeft - 16);
        m_y += 10;
    }

    /// From the opening on the left to the hazard: as built, and where it would have to be.
    void distance()
    {
        m_y += 10;
        if (!m_content.neededM) {
            m_figure.label({kLeft, m_y + 6}, m_words.noDistance, LabelSize::Small, Ink::Quiet, Align::Left,
                m_figure.width - kLeft);
            m_y += 12;
            return;
        }
        const double needed = *m_content.neededM, built = m_content.builtM.value_or(0.0);
        const double perMetre = (m_figure.width - kLeft - kRight) / std::max({needed, built, 0.01});
        const double y = m_y + 24, toNeeded = kLeft + needed * perMetre, toBuilt = kLeft + built * perMetre;
        m_figure.line({kLeft, y - 16}, {kLeft, y + 12}, Ink::Ink, 2.5);
        m_figure.label({kLeft + 6, y - 10}, m_words.opening, LabelSize::Small, Ink::Ink);
        m_figure.line({kLeft, y}, {std::max(toNeeded, toBuilt), y}, Ink::Line, 1.5);
        if (m_content.intrusionM > 0) {
            m_figure.box({kLeft, y + 2, m_content.intrusionM * perMetre, 5}, Ink::Shade);
            m_figure.label({kLeft + 6, y + 34}, m_words.intrusion + " " + metreWords(m_content.intrusionM),
                LabelSize::Small, Ink::Quiet);
        }
        const bool isShort = m_content.builtM && built < needed;
        if (isShort)
            m_figure.hatch({toBuilt, y - 6, toNeeded - toBuilt, 12}, Ink::Missing);
        const Ink ink = !m_content.builtM ? Ink::Quiet : isShort ? Ink::Missing : Ink::Reached;
        m_figure.line({toNeeded, y - 12}, {toNeeded, y + 12}, ink, 2, true);
        m_figure.label({toNeeded + 5, y + 4}, metreWords(needed), LabelSize::Figures, ink);
        m_figure.label({std::min(toNeeded, m_figure.width - kRight), y + 22},
            m_words.needed + fmt::format(", {:.1f} m/s, {}", m_content.speedMetresPerS, m_content.clause),
            LabelSize::Small, ink, Align::Right);
        if (m_content.builtM) {
            Shape hazard;
            hazard.points = {{toBuilt, y - 7}, {toBuilt + 7, y}, {toBuilt, y + 7}, {toBuilt - 7, y}};
            hazard.isClosed = hazard.isFilled = true;
            hazard.stroke = hazard.fill = isShort ? Ink::Missing : Ink::Ink;
            m_figure.shapes.push_back(std::move(hazard));
            m_figure.label({toBuilt, y - 13},
                m_words.hazard + " " + metreWords(built)
                    + (isShort ? ", " + metreWords(needed - built) + " " + m_words.missing : std::string()),
                LabelSize::Small, isShort ? Ink::Missing : Ink::Ink,
                toBuilt > m_figure.width / 2 ? Align::Right : Align::Left);
        }
        m_y = y + 40;
    }

    const ApproachContent& m_content;
    const ApproachWords& m_words;
    double m_perSecond = 0, m_y = 0;
    Figure m_figure;
};

} // namespace

Figure approach(const ApproachContent& content, const ApproachWords& words, double width)
{
    return ApproachDrawing(content, words, width).drawn();
}

} // namespace ts::figures
