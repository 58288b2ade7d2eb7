#pragma once
// Asks an instrument by lines: over the network ("127.0.0.1:5025") or a serial port ("/dev/ttyUSB0",
// "/dev/ttyUSB0@9600"). Only an address that somebody entered is spoken to; a line of at most 1 kB, two seconds for an
// answer.

#include <QObject>
#include <QStringList>
#include <QTimer>

#include <memory>

class QIODevice;

namespace ts::app {

class MeterLink : public QObject {
    Q_OBJECT
public:
    explicit MeterLink(QObject* parent = nullptr);
    ~MeterLink() override;

    /// One command after the other, each when the one before it was answered. What runs is given up.
    void ask(const QString& address, const QStringList& commands);
    bool isBusy() const { return m_device != nullptr; }

signals:
    void answered(const QStringList& answers);
    void failed(const QString& why);

private:
    bool open(const QString& address);
    void sendNext();
    void take();
    void giveUp(const QString& why);
    void close();

    std::unique_ptr<QIODevice> m_device;
    QTimer m_timer;
    QStringList m_commands, m_answers;
    QByteArray m_in;
};

} // namespace ts::app
