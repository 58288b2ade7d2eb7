#include "core/figures/means_figure.h"

#include <algorithm>

namespace ts::figures {

Figure channelMeans(const std::vector<MeansRow>& rows, const MeansWords& words, double width)
{
    constexpr double kHead = 22, kRow = 19, kSide = 46, kDot = 9;
    constexpr std::size_t kMostApart = 6; ///< what only one channel has is no danger: a few show that it was looked at
    Figure f;
    f.width = width;
    const double left = kSide, right = width - kSide;
    f.label({left, 12}, words.first, LabelSize::Small, Ink::Quiet, Align::Middle);
    f.label({right, 12}, words.second, LabelSize::Small, Ink::Quiet, Align::Middle);
    double y = kHead;
    std::size_t apart = 0;
    bool isAnyShared = false;
    for (const MeansRow& row : rows) {
        const bool isShared = row.isInFirst && row.isInSecond;
        isAnyShared = isAnyShared || isShared;
        if (!isShared && ++apart > kMostApart)
            continue;
        const double middle = y + kRow / 2 - 2;
        if (isShared)
            f.box({left, middle - 1.5, right - left, 3}, Ink::Open);
        const auto dot = [&](double x, bool isThere) {
            if (isThere)
                f.box({x - kDot / 2, middle - kDot / 2, kDot, kDot}, isShared ? Ink::Open : Ink::Ink);
            else
                f.outline({x - kDot / 2, middle - kDot / 2, kDot, kDot}, Ink::Line);
        };
        dot(left, row.isInFirst);
        dot(right, row.isInSecond);
        const std::string text = row.kind + " " + row.name + (isShared ? ", " + words.shared : std::string());
        const double room = std::min(right - left - 40, 8.0 + 6.2 * static_cast<double>(text.size()));
        f.box({width / 2 - room / 2, middle - 8, room, 16}, Ink::Panel);
        f.label({width / 2, middle + 4}, text, LabelSize::Small, isShared ? Ink::Ink : Ink::Quiet, Align::Middle,
            right - left - 44);
        y += kRow;
    }
    if (!isAnyShared) {
        f.label({width / 2, y + 12}, words.none, LabelSize::Small, Ink::Quiet, Align::Middle, width);
        y += kRow;
    }
    f.height = y + 4;
    return f;
}

} // namespace ts::figures
