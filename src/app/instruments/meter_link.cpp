#include "app/instruments/meter_link.h"

#include <QSerialPort>
#include <QTcpSocket>

namespace ts::app {
namespace {

constexpr int kAnswerMs = 2000;
constexpr qsizetype kLongestLine = 1024;

} // namespace

MeterLink::MeterLink(QObject* parent)
    : QObject(parent)
{
    m_timer.setSingleShot(true);
    m_timer.setInterval(kAnswerMs);
    connect(&m_timer, &QTimer::timeout, this, [this] { giveUp(tr("it does not answer within two seconds")); });
}

MeterLink::~MeterLink()
{
    close();
}

void MeterLink::ask(const QString& address, const QStringList& commands)
{
    close();
    m_commands = commands;
    m_answers.clear();
    m_in.clear();
    m_timer.start();
    if (!open(address.trimmed()) && m_device)
        giveUp(m_device->errorString());
}

/// False: it failed at once. A network connection sends when it stands.
bool MeterLink::open(const QString& address)
{
    if (address.startsWith('/')) {
        auto port = std::make_unique<QSerialPort>(address.section('@', 0, 0));
        QSerialPort* serial = port.get();
        m_device = std::move(port);
        const int rate = address.section('@', 1, 1).toInt();
        serial->setBaudRate(rate > 0 ? rate : 9600);
        connect(serial, &QIODevice::readyRead, this, &MeterLink::take);
        if (!serial->open(QIODevice::ReadWrite))
            return false;
        sendNext();
        return true;
    }
    const int colon = static_cast<int>(address.lastIndexOf(':'));
    const int port = address.mid(colon + 1).toInt();
    auto socket = std::make_unique<QTcpSocket>();
    QTcpSocket* tcp = socket.get();
    m_device = std::move(socket);
    if (colon <= 0 || port <= 0 || port > 65535) {
        giveUp(tr("\"%1\" is no address; right would be 127.0.0.1:5025 or /dev/ttyUSB0@9600").arg(address));
        return true;
    }
    connect(tcp, &QIODevice::readyRead, this, &MeterLink::take);
    connect(tcp, &QTcpSocket::connected, this, &MeterLink::sendNext);
    connect(tcp, &QTcpSocket::errorOccurred, this, [this, tcp] { giveUp(tcp->errorString()); });
    tcp->connectToHost(address.left(colon), static_cast<quint16>(port));
    return true;
}

void MeterLink::sendNext()
{
    m_device->write(m_commands[m_answers.size()].toLatin1() + '\n');
}

void MeterLink::take()
{
    m_in += m_device->readAll();
    const qsizetype end = m_in.indexOf('\n');
    if (end > kLongestLine || (end < 0 && m_in.size() > kLongestLine))
        return giveUp(tr("its answer is longer than a line"));
    if (end < 0)
        return;
    m_answers << QString::fromLatin1(m_in.left(end)).trimmed();
    m_in.remove(0, end + 1);
    if (m_answers.size() < m_commands.size()) {
        m_timer.start();
        return sendNext();
    }
    const QStringList answers = m_answers;
    close();
    emit answered(answers);
}

void MeterLink::giveUp(const QString& why)
{
    close();
    emit failed(why);
}

/// Not destroyed while it is the one that speaks.
void MeterLink::close()
{
    m_timer.stop();
    if (!m_device)
        return;
    m_device->disconnect(this);
    m_device.release()->deleteLater();
}

} // namespace ts::app
