#include "cli/rig.h"

#include "core/practice/scpi.h"
#include "wording/wording.h"

#include <boost/asio.hpp>

#include <deque>
#include <memory>

namespace ts::cli {
namespace {

namespace asio = boost::asio;
using asio::ip::tcp;

constexpr std::size_t kLongestLine = 1024;
constexpr auto kLookEvery = std::chrono::milliseconds(50); ///< whether it shall end

using Answer = std::function<std::string(const std::string&)>;

/// One line in, one line out.
class Connection : public std::enable_shared_from_this<Connection> {
public:
    Connection(tcp::socket socket, Answer answer)
        : m_socket(std::move(socket))
        , m_answer(std::move(answer))
    {
    }

    void read()
    {
        asio::async_read_until(m_socket, asio::dynamic_buffer(m_in, kLongestLine), '\n',
            [self = shared_from_this()](const boost::system::error_code& error, std::size_t size) {
                if (!error) // else it has gone, or sent more than a line
                    self->take(size);
            });
    }

private:
    void take(std::size_t size)
    {
        std::string line = m_in.substr(0, size);
        m_in.erase(0, size);
        while (!line.empty() && (line.back() == '\n' || line.back() == '\r'))
            line.pop_back();
        m_out = m_answer(line);
        if (m_out.empty())
            return read();
        m_out += '\n';
        asio::async_write(m_socket, asio::buffer(m_out),
            [self = shared_from_this()](const boost::system::error_code& error, std::size_t) {
                if (!error)
                    self->read();
            });
    }

    tcp::socket m_socket;
    Answer m_answer;
    std::string m_in, m_out;
};

class Listener {
public:
    Listener(asio::io_context& context, unsigned port, Answer answer)
        : m_acceptor(context, tcp::endpoint(asio::ip::address_v4::loopback(), static_cast<std::uint16_t>(port)))
        , m_answer(std::move(answer))
    {
        accept();
    }
    unsigned port() const { return m_acceptor.local_endpoint().port(); }

private:
    void accept()
    {
        m_acceptor.async_accept([this](const boost::system::error_code& error, tcp::socket socket) {
            if (error)
                return;
            std::make_shared<Connection>(std::move(socket), m_answer)->read();
            accept();
        });
    }

    tcp::acceptor m_acceptor;
    Answer m_answer;
};

} // namespace

int serve(practice::PracticePanel& panel, OperatorAnswers answers, unsigned port, unsigned operatorPort, Session& s)
{
    asio::io_context context;
    practice::ScpiMeter meter(panel);
    bool isOver = false;
    try {
        const Listener instrument(context, port, [&meter](const std::string& line) { return meter.answer(line); });
        const Listener hands(context, operatorPort, [&](const std::string& line) {
            isOver |= line == "quit";
            return isOver ? std::string("ok") : answers(panel, line);
        });
        s.out << wording::word("drill.simulated") << "\nmeter 127.0.0.1:" << instrument.port()
              << "\noperator 127.0.0.1:" << hands.port() << std::endl;
        while (!isOver && !s.stop.stop_requested())
            context.run_for(kLookEvery);
        context.run_for(kLookEvery); // the last answer
    } catch (const boost::system::system_error& e) {
        return fail({ErrorCode::Refused, message("drill.no_port", {e.code().message()})}, s);
    }
    return kInOrder;
}

} // namespace ts::cli
