#pragma once
// The channels of one subsystem as sentences, one for each part: how often it works, what notices its failure, and what
// the wiring and the faults say to that; parts are put in and taken out here. For category 2 what tests it, too.

#include "app/widgets/word_flow.h"
#include "core/model/dossier.h"

#include <QWidget>

#include <functional>

class QMenu;
class QPushButton;
class QVBoxLayout;

namespace ts::app {

class ClaimParts : public QWidget {
    Q_OBJECT
public:
    using Change = std::function<void(const QString& label, const std::function<void(ClaimedSubsystem&)>&)>;
    ClaimParts(const Theme& theme, Change change, QWidget* parent);
    /// `built`: in words what came of a device when faults were tried.
    void show(const Dossier& dossier, const ClaimedSubsystem& subsystem, const std::function<QString(DeviceId)>& built);

signals:
    /// Somebody asks what is known about a device's reliability.
    void dataWanted(DeviceId device);
    /// Somebody is about to answer for it.
    void lookedAt(ts::DeviceId device);

protected:
    bool eventFilter(QObject* watched, QEvent* e) override;

private:
    /// Where a part stands: in a channel, or (-1) in what tests the channel.
    struct Where {
        int channel = 0;
        std::size_t part = 0;
        QString name() const
        {
            return QStringLiteral("%1.%2")
                .arg(channel < 0 ? QStringLiteral("test") : QString::number(channel))
                .arg(part);
        }
    };
    using Refresh = std::function<void(const Dossier&, const ClaimedSubsystem&)>;
    static ClaimedChannel* channelOf(ClaimedSubsystem& subsystem, int channel);
    void rebuild(const Dossier& dossier, const ClaimedSubsystem& subsystem);
    void addHeading(const QString& text);
    void addRow(const Dossier& dossier, const ClaimedPart& part, Where where);
    void addBuilt(Where where);
    void addMeasure(WordFlow& flow, Where where, const QString& tag);
    void addUse(WordFlow& flow, Where where, const QString& tag);
    void addAdder(
        int channel, const QString& text, const std::function<void(ClaimedSubsystem&, const ClaimedPart&)>& into);
    void addTest();
    void fill(QMenu* menu, const std::function<void(ClaimedSubsystem&, const ClaimedPart&)>& into);
    void changePart(const QString& label, Where where, const std::function<void(ClaimedPart&)>& what);

    const Theme& m_theme;
    Change m_change;
    std::function<QString(DeviceId)> m_built;
    Dossier m_dossier; ///< of the last show(): what a menu offers
    std::string m_shape;
    std::vector<Refresh> m_refresh;
    QVBoxLayout *m_outer = nullptr, *m_column = nullptr;
};

} // namespace ts::app
