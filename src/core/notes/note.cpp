#include "core/notes/note.h"

#include "core/base/plain_text.h"
#include "core/library/fields.h"
#include "core/library/table.h"

#include <algorithm>
#include <array>
#include <cctype>

namespace ts::notes {
namespace {

/// A word of the line, and where it begins, from 1.
struct Word {
    std::string text;
    int column = 0;
};

bool isBlankSign(char c)
{
    return c == ' ' || c == '\t' || c == '\r';
}

/// ">" stands for itself, with or without blanks around it.
std::vector<Word> wordsOf(std::string_view line)
{
    std::vector<Word> words;
    for (std::size_t k = 0; k < line.size();) {
        if (isBlankSign(line[k])) {
            ++k;
            continue;
        }
        std::size_t end = k + 1;
        if (line[k] == '"')
            end = std::min(line.find('"', end), line.size() - 1) + 1;
        else if (line[k] != '>')
            while (end < line.size() && !isBlankSign(line[end]) && line[end] != '>')
                ++end;
        words.push_back({std::string(line.substr(k, end - k)), static_cast<int>(k) + 1});
        k = end;
    }
    return words;
}

/// Where "#" begins a remark: at the line's beginning or behind a blank, outside of quotes; else the line's end.
std::size_t remarkIn(std::string_view line)
{
    bool isQuoted = false;
    for (std::size_t k = 0; k < line.size(); ++k) {
        isQuoted = isQuoted != (line[k] == '"');
        if (line[k] == '#' && !isQuoted && (k == 0 || isBlankSign(line[k - 1])))
            return k;
    }
    return line.size();
}

Unexpected wrong(int column, const char* id, std::vector<Argument> arguments = {})
{
    return failure(ErrorCode::Syntax, message(id, std::move(arguments)), {{}, 0, column, {}});
}

std::optional<double> withUnit(std::string_view text, std::string_view unit)
{
    if (!text.ends_with(unit))
        return std::nullopt;
    std::string number(text.substr(0, text.size() - unit.size()));
    std::replace(number.begin(), number.end(), ',', '.');
    return numberFrom(number);
}

/// "nc" and "opens" are one.
std::optional<std::string> effectOf(std::string_view word)
{
    constexpr std::array<std::pair<std::string_view, const char*>, 6> words{{{"nc", "opens"}, {"opens", "opens"},
        {"no", "closes"}, {"closes", "closes"}, {"?", "unknown"}, {"unknown", "unknown"}}};
    const auto found = std::find_if(words.begin(), words.end(), [word](const auto& w) { return w.first == word; });
    return found == words.end() ? std::nullopt : std::optional<std::string>(found->second);
}

std::string contactFrom(const std::string& word)
{
    const std::size_t slash = word.find('/');
    const auto effect = slash == word.npos ? std::nullopt : effectOf(std::string_view(word).substr(slash + 1));
    return effect ? word.substr(0, slash) + "/" + *effect : word;
}

std::string unquoted(const std::string& word)
{
    return word.substr(1, word.size() - 1 - (word.size() > 1 && word.back() == '"'));
}

class Line {
public:
    explicit Line(const std::string& text)
        : m_words(wordsOf(std::string_view(text).substr(0, remarkIn(text))))
        , m_end(static_cast<int>(remarkIn(text)) + 1)
    {
    }

    Expected<Note> note()
    {
        if (m_words.empty())
            return Note(Blank{});
        if (m_words[0].text == "in" || m_words[0].text == "in:")
            return route();
        if (m_words[0].text == "control")
            return control();
        if (m_words.size() > 1 && m_words[1].text == "=")
            return device();
        if (m_words.size() > 1 && (m_words[1].text == "locks" || m_words[1].text == "brakes"))
            return link();
        if (std::any_of(m_words.begin(), m_words.end(), [](const Word& w) { return w.text == ">"; }))
            return wire();
        if (m_words.size() >= 2 && m_words[1].text.find('-') != std::string::npos)
            return contact();
        return wrong(m_end, "note.unfinished");
    }

private:
    const Word* word(std::size_t k) const { return k < m_words.size() ? &m_words[k] : nullptr; }

    /// "in door duct: cable": the name may have blanks and ends at the colon.
    Expected<Note> route() const
    {
        RouteNote note;
        std::size_t k = 0;
        bool isNamed = m_words[0].text.ends_with(':');
        for (++k; k < m_words.size() && !isNamed; ++k) {
            isNamed = m_words[k].text.ends_with(':');
            const std::string part = m_words[k].text.substr(0, m_words[k].text.size() - isNamed);
            note.name += (note.name.empty() || part.empty() ? "" : " ") + part;
        }
        if (!isNamed)
            return wrong(m_end, "note.route_colon");
        if (const Word* kind = word(k)) {
            note.kind = routeNamed(kind->text);
            if (routeWord(note.kind) != kind->text)
                return wrong(kind->column, "note.route_kind", {kind->text});
            if (const Word* more = word(k + 1))
                return wrong(more->column, "note.too_much", {more->text});
        }
        return Note(std::move(note));
    }

    Expected<Note> control() const
    {
        const Word *volts = word(1), *kind = word(2);
        const auto v = volts ? withUnit(volts->text, volts->text.ends_with('V') ? "V" : "") : std::nullopt;
        if (!v || !(*v > 0.0))
            return wrong(volts ? volts->column : m_end, "note.control");
        if (!kind || (kind->text != "ac" && kind->text != "dc"))
            return wrong(kind ? kind->column : m_end, "note.control");
        if (const Word* more = word(3))
            return wrong(more->column, "note.too_much", {more->text});
        return Note(ControlNote{*v, kind->text == "dc"});
    }

    Expected<Note> link() const
    {
        if (!word(2))
            return wrong(m_end, "note.no_second", {m_words[1].text});
        if (const Word* more = word(3))
            return wrong(more->column, "note.too_much", {more->text});
        return Note(LinkNote{m_words[1].text == "locks" ? LinkNote::What::Locks : LinkNote::What::Brakes,
            m_words[0].text, m_words[2].text});
    }

    Expected<Note> device() const
    {
        DeviceNote note{m_words[0].text, {}, {}, {}, {}, {}};
        if (!word(2))
            return wrong(m_end, "note.no_kind", {note.tag});
        note.kind = m_words[2].text;
        for (std::size_t k = 3; k < m_words.size(); ++k) {
            const std::string& text = m_words[k].text;
            if (text.front() == '"') {
                note.label = unquoted(text);
                continue;
            }
            if (text.front() == '@') {
                note.place = text.substr(1);
                if (note.place != "door" && note.place != "plate" && note.place != "field")
                    return wrong(m_words[k].column, "note.place", {text});
                continue;
            }
            if (const std::size_t is = text.find('='); is != text.npos && is > 0 && is + 1 < text.size())
                note.values.emplace_back(text.substr(0, is), text.substr(is + 1));
            else if (text.find('-') != text.npos && is == text.npos)
                note.contacts.push_back(contactFrom(text));
            else
                return wrong(m_words[k].column, "note.neither_value_nor_contact", {text});
        }
        return Note(std::move(note));
    }

    Expected<Note> contact() const
    {
        const Word* effect = word(2);
        const auto does = effect ? effectOf(effect->text) : std::nullopt;
        if (!does)
            return wrong(effect ? effect->column : m_end, "note.contact_effect", {m_words[1].text});
        if (const Word* more = word(3))
            return wrong(more->column, "note.too_much", {more->text});
        return Note(ContactNote{m_words[0].text, m_words[1].text + "/" + *does});
    }

    /// "Q1 13" or "Q1:13", from the k-th word on.
    Expected<Place> place(std::size_t& k) const
    {
        const Word* first = word(k);
        if (!first || first->text == ">")
            return wrong(first ? first->column : m_end, "note.no_terminal");
        if (const std::size_t colon = first->text.find(':'); colon != std::string::npos && colon > 0) {
            ++k;
            if (colon + 1 == first->text.size())
                return wrong(m_end, "note.no_marking", {first->text.substr(0, colon)});
            return Place{first->text.substr(0, colon), first->text.substr(colon + 1)};
        }
        const Word* second = word(k + 1);
        if (!second || second->text == ">")
            return wrong(second ? second->column : m_end, "note.no_marking", {first->text});
        k += 2;
        return Place{first->text, second->text};
    }

    /// Whether a wire has such a field and it can be so.
    static Expected<void> wireField(const std::pair<std::string, std::string>& value)
    {
        for (const Field<Wire>& f : kWireFields)
            if (f.name == value.first) {
                Wire scratch;
                return fields::take(f, value.second, scratch);
            }
        return failure(ErrorCode::NotFound, message("note.too_much", {value.first}));
    }

    Expected<Note> wire() const
    {
        WireNote note;
        std::size_t k = 0;
        for (bool again = true; again;) {
            auto end = place(k);
            if (!end)
                return Unexpected{end.error()};
            note.ends.push_back(std::move(*end));
            again = word(k) && word(k)->text == ">";
            k += again;
        }
        for (; const Word* w = word(k); ++k) {
            if (w->text == ">")
                return wrong(w->column, "note.too_much", {w->text});
            if (w->text.size() > 1 && w->text.front() == '=')
                note.number = w->text.substr(1);
            else if (const auto area = withUnit(w->text, "mm2"))
                note.areaMm2 = area;
            else if (const auto length = withUnit(w->text, "m"))
                note.lengthM = length;
            else if (const std::size_t equals = w->text.find('='); equals != std::string::npos && equals > 0) {
                note.values.emplace_back(w->text.substr(0, equals), w->text.substr(equals + 1));
                if (auto known = wireField(note.values.back()); !known)
                    return wrong(w->column, known.error().message.id.c_str(), known.error().message.arguments);
            } else if (note.colour.empty() && w->text.front() == '"')
                note.colour = unquoted(w->text);
            else if (note.colour.empty() && std::isalpha(static_cast<unsigned char>(w->text.front())))
                note.colour = w->text;
            else
                return wrong(w->column, "note.too_much", {w->text});
        }
        if (note.ends.size() < 2)
            return wrong(m_end, "note.no_terminal");
        return Note(std::move(note));
    }

    std::vector<Word> m_words;
    int m_end; ///< column behind the line
};

} // namespace

Expected<Note> noteFrom(std::string_view line)
{
    return Line(plainText(line)).note();
}

} // namespace ts::notes
