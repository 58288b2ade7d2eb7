#include "app/places/levels/danger_page.h"

#include "app/widgets/plain_text.h"
#include "app/words/words.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QScrollArea>
#include <QVBoxLayout>

namespace ts::app {
namespace {

constexpr std::size_t kDraws = 100'000;
constexpr std::uint64_t kSeed = 20'13'849; ///< always the same, so that a picture can be made again
constexpr int kSettleMs = 250;
constexpr std::size_t kMostSensitive = 6;

} // namespace

DangerPage::DangerPage(Document& document, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_work(this)
{
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(24);
    grid->setVerticalSpacing(8);
    m_logarithmic = new QCheckBox(tr("logarithmic"), this);
    m_logarithmic->setObjectName("danger.logarithmic");
    grid->addWidget(m_logarithmic, 0, 0, Qt::AlignRight);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setFocusPolicy(Qt::NoFocus);
    m_shares = new FigureView(theme, scroll);
    m_shares->setObjectName("danger.shares");
    m_shares->setAccessibleName(tr("From whom the dangerous failures come"));
    scroll->setWidget(m_shares);
    grid->addWidget(scroll, 1, 0);
    m_curves = new FigureView(theme, this);
    m_curves->setObjectName("danger.curves");
    m_curves->setAccessibleName(tr("Curves of the categories"));
    m_curves->setMinimumHeight(300);
    grid->addWidget(m_curves, 0, 1, 2, 1);
    grid->setColumnStretch(0, 1);
    grid->setColumnStretch(1, 1);
    grid->setRowStretch(1, 1);
    auto* sure = new QVBoxLayout;
    sure->addWidget(plainLabel(tr("How sure"), theme.bold(), this));
    m_sure = plainLabel({}, theme.body(), this);
    m_sure->setObjectName("danger.sure");
    sure->addWidget(m_sure);
    sure->addStretch(1);
    grid->addLayout(sure, 2, 0);
    auto* sensitive = new QVBoxLayout;
    sensitive->addWidget(plainLabel(tr("What moves it most"), theme.bold(), this));
    m_sensitive = plainLabel({}, theme.body(), this);
    m_sensitive->setObjectName("danger.sensitive");
    sensitive->addWidget(m_sensitive);
    sensitive->addStretch(1);
    grid->addLayout(sensitive, 2, 1);

    m_settle.setSingleShot(true);
    m_settle.setInterval(kSettleMs);
    connect(&m_settle, &QTimer::timeout, this, &DangerPage::draw);
    connect(m_logarithmic, &QCheckBox::clicked, this, [this] { show(m_level); });
}

void DangerPage::show(const safety::FunctionLevel& level)
{
    m_level = level;
    const auto list = wording::contributionsOf(m_level);
    m_shares->show([list, isLogarithmic = m_logarithmic->isChecked()](double width, double height, int chosen) {
        return figures::shares(list, isLogarithmic, wording::shareWords(), width, height, chosen);
    });
    const auto points = wording::pointsOf(m_level);
    const auto required = m_level.required ? std::optional(wording::pfhdLimit(*m_level.required)) : std::nullopt;
    m_curves->show([points, required, words = wording::curveWords(m_level.required)](double width, double height, int) {
        static const auto kCurves = wording::categoryCurves();
        return figures::categoryCurves(kCurves, points, required, words, width, height);
    });
    takeSensitivities();
    m_work.drop();
    m_settle.start();
}

void DangerPage::takeSensitivities()
{
    if (!m_level.chain || !m_level.level)
        return m_sensitive->setText(tr("Without a level there is nothing to compare with."));
    const auto list = safety::sensitivitiesOf(*m_level.chain);
    QStringList lines{list.empty() || list.front().ratio < 1.0005
            ? tr("Ten per cent more or less change nothing: every channel lies beyond the cap of its category.")
            : tr("PFHd if one input were 10 % worse (between rows of the table):")};
    for (std::size_t k = 0; k < std::min(kMostSensitive, list.size()) && list[k].ratio >= 1.0005; ++k)
        lines << tr("%1: %2 % more")
                     .arg(words::inputText(list[k].input, m_document.dossier().circuit))
                     .arg((list[k].ratio - 1.0) * 100.0, 0, 'f', 1);
    lines << words::markovLines(m_level, m_document.dossier().arithmetic);
    m_sensitive->setText(lines.join('\n'));
}

void DangerPage::draw()
{
    if (!m_level.chain) {
        m_sure->setText(tr("Some part has no value yet."));
        emit finished();
        return;
    }
    m_work.run(
        [chain = *m_level.chain, spread = safety::spreadOf(m_document.dossier().arithmetic),
            required = m_level.required](std::stop_token stop) -> std::optional<Expected<safety::Uncertainty>> {
            auto u = safety::uncertaintyOf(chain, spread, required, kDraws, kSeed, stop);
            if (stop.stop_requested())
                return std::nullopt;
            return u;
        },
        [this](std::shared_ptr<const Expected<safety::Uncertainty>> u) {
            m_sure->setText(*u ? words::uncertaintyLines(**u, m_level.required,
                                safety::spreadOf(m_document.dossier().arithmetic), m_document.dossier().circuit)
                                     .join('\n')
                               : words::sentence(u->error()));
            emit finished();
        });
}

} // namespace ts::app
