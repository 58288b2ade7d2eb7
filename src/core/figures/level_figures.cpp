#include "core/figures/level_figures.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace ts::figures {
namespace {

constexpr double kRowHeight = 24, kHead = 28, kNames = 288, kNumbers = 78;

/// "2.35e-08" without a library: three figures and the power of ten.
std::string scientific(double value)
{
    if (!(value > 0))
        return "0";
    int power = static_cast<int>(std::floor(std::log10(value)));
    long figures = std::lround(value / std::pow(10.0, power) * 100.0);
    if (figures >= 1000) {
        figures /= 10;
        ++power;
    }
    const std::string digits = std::to_string(figures);
    return digits.substr(0, 1) + "." + digits.substr(1) + "e" + std::to_string(power);
}

std::string percent(double share)
{
    return share >= 0.0995 ? std::to_string(std::lround(share * 100)) + " %"
        : share >= 0.0005
        ? std::to_string(std::lround(share * 1000) / 10) + "." + std::to_string(std::lround(share * 1000) % 10) + " %"
        : "< 0.1 %";
}

} // namespace

Figure shares(const std::vector<Contribution>& list, bool isLogarithmic, const ShareWords& words, double width,
    double height, int chosen)
{
    Figure f;
    f.width = width;
    f.height = std::max(height, kHead + kRowHeight * static_cast<double>(list.size()) + 8);
    f.label({0, 16}, words.heading, LabelSize::Bold, Ink::Ink, Align::Left, width);
    if (list.empty()) {
        f.label({0, kHead + 14}, words.none, LabelSize::Body, Ink::Quiet, Align::Left, width);
        return f;
    }
    std::vector<std::size_t> order(list.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::stable_sort(order.begin(), order.end(),
        [&](std::size_t a, std::size_t b) { return list[a].pfhdPerHour > list[b].pfhdPerHour; });
    double sum = 0;
    for (const Contribution& c : list)
        sum += c.pfhdPerHour;
    const double largest = list[order.front()].pfhdPerHour, room = std::max(40.0, width - kNames - kNumbers - 70);
    for (std::size_t k = 0; k < order.size(); ++k) {
        const Contribution& c = list[order[k]];
        const double y = kHead + kRowHeight * static_cast<double>(k), share = sum > 0 ? c.pfhdPerHour / sum : 0;
        const double length = !isLogarithmic   ? share
            : c.pfhdPerHour > 0 && largest > 0 ? std::clamp(1.0 + std::log10(c.pfhdPerHour / largest) / 3.0, 0.0, 1.0)
                                               : 0.0;
        const Area row{0, y, width, kRowHeight};
        if (static_cast<int>(order[k]) == chosen)
            f.box({0, y + 1, width, kRowHeight - 2}, Ink::Panel, Ink::Line, 1);
        f.label({4, y + 16}, c.name, LabelSize::Body, Ink::Ink, Align::Left, 124);
        f.label({132, y + 16}, c.about, LabelSize::Small, Ink::Quiet, Align::Left, kNames - 140);
        f.box({kNames, y + 6, std::max(1.0, length * room), kRowHeight - 12}, k == 0 ? Ink::Ink : Ink::Shade);
        f.label({kNames + room + 58, y + 16}, percent(share), LabelSize::Figures, Ink::Ink, Align::Right);
        f.label({width - 4, y + 16}, scientific(c.pfhdPerHour), LabelSize::Figures, Ink::Ink, Align::Right);
        f.spots.push_back({row, static_cast<int>(order[k]),
            c.name + ", " + c.about + ": " + scientific(c.pfhdPerHour) + " " + words.unit + ", " + percent(share)});
    }
    return f;
}

Figure categoryCurves(const std::vector<CategoryCurve>& curves, const std::vector<CurvePoint>& points,
    std::optional<double> requiredBelow, const CurveWords& words, double width, double height)
{
    constexpr double kLeft = 30, kRight = 92, kTop = 34, kBottom = 40, kWorst = 1e-4, kBest = 3e-10, kLeast = 3,
                     kMost = 2500;
    Figure f;
    f.width = width;
    f.height = height;
    const double right = width - kRight, bottom = height - kBottom;
    const auto x = [&](double years) {
        return kLeft + (right - kLeft) * std::log(std::clamp(years, kLeast, kMost) / kLeast) / std::log(kMost / kLeast);
    };
    const auto y = [&](double pfhd) {
        return kTop + (bottom - kTop) * std::log(std::clamp(pfhd, kBest, kWorst) / kBest) / std::log(kWorst / kBest);
    };
    f.label({0, 16}, words.heading, LabelSize::Bold, Ink::Ink, Align::Left, width);
    for (const auto& [limit, name] : {std::pair{1e-5, "a"}, {3e-6, "b"}, {1e-6, "c"}, {1e-7, "d"}, {kBest, "e"}}) {
        const double above = y(limit),
                     below = limit == 1e-5 ? bottom
            : limit == 3e-6                ? y(1e-5)
            : limit == 1e-6                ? y(3e-6)
            : limit == 1e-7                ? y(1e-6)
                                           : y(1e-7);
        f.line({kLeft, above}, {right, above}, Ink::Line);
        f.label({12, (above + below) / 2 + 5}, name, LabelSize::Bold, Ink::Quiet, Align::Middle);
    }
    f.line({kLeft, bottom}, {right, bottom}, Ink::Ink, 1.5);
    for (double years : {3.0, 10.0, 30.0, 100.0, 300.0, 1000.0, 2500.0}) {
        f.line({x(years), bottom}, {x(years), bottom + 4}, Ink::Ink);
        f.label({x(years), bottom + 16}, std::to_string(static_cast<int>(years)), LabelSize::Figures, Ink::Quiet,
            Align::Middle);
    }
    f.label({right, bottom + 30}, words.x, LabelSize::Small, Ink::Quiet, Align::Right);
    std::vector<double> taken; // heights of names at the right end
    for (const CategoryCurve& c : curves) {
        Shape s;
        s.stroke = Ink::Quiet;
        for (const auto& [years, pfhd] : c.points)
            s.points.push_back({x(years), y(pfhd)});
        if (s.points.empty())
            continue;
        Position end = s.points.back();
        f.shapes.push_back(std::move(s));
        double at = end.y + 4;
        while (std::any_of(taken.begin(), taken.end(), [&](double t) { return std::abs(t - at) < 12; }))
            at += 3;
        taken.push_back(at);
        f.label({end.x + 5, at}, c.name, LabelSize::Small, Ink::Quiet);
    }
    if (requiredBelow) {
        f.line({kLeft, y(*requiredBelow)}, {right, y(*requiredBelow)}, Ink::Reached, 2, true);
        f.label({kLeft + 6, y(*requiredBelow) - 5}, words.required, LabelSize::Small, Ink::Reached);
    }
    // Points by number, their names where no curve runs: many subsystems stand at the same cap.
    std::vector<std::pair<Position, std::string>> groups;
    for (std::size_t k = 0; k < points.size(); ++k) {
        const Position p{x(points[k].mttfdYears), y(points[k].pfhdPerHour)};
        const std::string number = std::to_string(k + 1);
        f.box({p.x - 4, p.y - 4, 8, 8}, Ink::Ink);
        const auto same = std::find_if(groups.begin(), groups.end(),
            [&](const auto& g) { return std::abs(g.first.x - p.x) < 16 && std::abs(g.first.y - p.y) < 12; });
        if (same == groups.end())
            groups.emplace_back(p, number);
        else
            same->second += " " + number;
        f.label({right - 200, bottom - 14 * static_cast<double>(points.size() - k) + 4}, number + "  " + points[k].name,
            LabelSize::Small, Ink::Ink, Align::Left, 200);
        f.spots.push_back({{p.x - 8, p.y - 8, 16, 16}, static_cast<int>(k),
            points[k].name + ": " + scientific(points[k].pfhdPerHour)});
    }
    for (const auto& [at, numbers] : groups)
        f.label({at.x - 8, at.y - 8}, numbers, LabelSize::Figures, Ink::Ink, Align::Right);
    return f;
}

} // namespace ts::figures
