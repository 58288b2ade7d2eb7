// The boxes of choices: seen on both grounds, and each state looks another.

#include "app/widgets/plain_style.h"
#include "app/widgets/theme.h"
#include "tests/support/window_rig.h"

#include <QCheckBox>
#include <QRadioButton>

namespace ts {
namespace {

/// The greatest difference of brightness between the ground and what is painted where the box is, 0 to 255.
int contrastOf(QWidget& widget)
{
    widget.resize(24, 24);
    const QImage image = widget.grab().toImage();
    const int ground = qGray(widget.palette().color(QPalette::Window).rgb());
    int most = 0;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x)
            most = std::max(most, std::abs(qGray(image.pixel(x, y)) - ground));
    return most;
}

class PlainStyleOf : public ::testing::TestWithParam<bool> {
protected:
    void SetUp() override
    {
        theme.setDark(GetParam());
        theme.applyTo(*qApp);
    }
    void TearDown() override
    {
        theme.setDark(false);
        theme.applyTo(*qApp);
    }
    app::Theme theme;
};

TEST_P(PlainStyleOf, AGroundShowsABoxThatIsNotChosen)
{
    QCheckBox check;
    QRadioButton radio;
    EXPECT_GT(contrastOf(check), 120);
    EXPECT_GT(contrastOf(radio), 120);
    check.setEnabled(false);
    EXPECT_GT(contrastOf(check), 60) << "one that cannot be chosen is there, too";
}

TEST_P(PlainStyleOf, EachStateLooksAnother)
{
    QCheckBox check;
    check.setTristate(true);
    std::vector<QImage> seen;
    for (Qt::CheckState state : {Qt::Unchecked, Qt::PartiallyChecked, Qt::Checked}) {
        check.setCheckState(state);
        check.resize(24, 24);
        seen.push_back(check.grab().toImage());
    }
    EXPECT_NE(seen[0], seen[1]);
    EXPECT_NE(seen[1], seen[2]);
    EXPECT_NE(seen[0], seen[2]);
    QRadioButton radio;
    radio.resize(24, 24);
    const QImage off = radio.grab().toImage();
    radio.setChecked(true);
    EXPECT_NE(radio.grab().toImage(), off);
    EXPECT_NE(off, seen[0]) << "one of several is round, one by itself is square";
}

INSTANTIATE_TEST_SUITE_P(LightAndDark, PlainStyleOf, ::testing::Bool());

} // namespace
} // namespace ts
