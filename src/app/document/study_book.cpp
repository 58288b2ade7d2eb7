#include "app/document/study_book.h"

#include "app/document/moment.h"
#include "app/document/study_worker.h"
#include "core/record/record.h"
#include "core/results/on_record.h"

#include <algorithm>

namespace ts::app {
namespace {

constexpr int kSettleMs = 30; ///< a drag makes many edits: work begins when it pauses
constexpr int kTickMs = 150, kDayLookMs = 60'000;
constexpr int kPatienceMs = 15'000;
constexpr std::size_t kMostOfOne = 8; ///< of one study and subject, so that undo finds them
constexpr std::size_t kMostBytes = 512u << 20;

} // namespace

StudyBook::StudyBook(Document& document, std::string folder, QObject* parent)
    : QObject(parent)
    , m_document(document)
    , m_store(std::move(folder))
{
    const auto done = [this](const std::shared_ptr<StudyJob>& job, std::shared_ptr<const Expected<Value>> result) {
        take(job, std::move(result));
    };
    m_prompt = std::make_unique<StudyWorker>(this, m_store, done);
    m_patient = std::make_unique<StudyWorker>(this, m_store, done);
    m_settle.setInterval(kSettleMs);
    m_settle.setSingleShot(true);
    m_idle.setInterval(kPatienceMs);
    m_idle.setSingleShot(true);
    m_tick.setInterval(kTickMs);
    connect(&m_settle, &QTimer::timeout, this, &StudyBook::consider);
    connect(&m_idle, &QTimer::timeout, this, &StudyBook::consider);
    connect(&m_tick, &QTimer::timeout, this, &StudyBook::progressed);
    m_midnight.setInterval(kDayLookMs);
    connect(&m_midnight, &QTimer::timeout, this, &StudyBook::lookAtDay);
    m_midnight.start();
    connect(&document, &Document::changed, this, &StudyBook::takeDocument);
    connect(&document, &Document::recorded, this, &StudyBook::takeRecord);
    connect(&document, &Document::loaded, this, [this] {
        m_onRecord = {};
        m_keysOf.reset();
        m_entries.clear();
        m_asked.clear();
        m_notOnDisk.clear();
        m_declined.clear();
    });
}

StudyBook::~StudyBook() = default;

const Value& StudyBook::onRecord() const
{
    if (!m_onRecord) {
        m_day = m_recordKey = m_today();
        for (const std::string& head : record::heads(m_document.record()))
            m_recordKey += head;
        m_onRecord = Value::of(OnRecord{m_document.record(), m_day});
    }
    return m_onRecord;
}

void StudyBook::takeRecord()
{
    m_onRecord = {};
    onRecord();
    m_fingerprint.record = m_recordKey; // the dossier is the same
    m_keys.clear();
    takeDocument();
}

void StudyBook::setToday(std::function<std::string()> today)
{
    m_today = std::move(today);
    lookAtDay();
}

/// A window stays open over midnight: what is due by a day is due then.
void StudyBook::lookAtDay()
{
    if (m_onRecord && m_day != m_today())
        takeRecord();
}

void StudyBook::takeDocument()
{
    if (m_day != m_today())
        m_onRecord = {};
    dropStale();
    m_settle.start();
    if (m_idle.interval() >= 0)
        m_idle.start();
    emit changed();
}

const std::vector<Subject>& StudyBook::subjects(Subject::Kind kind) const
{
    keyOf({}, {}); // of the dossier as it is
    auto [place, isNew] = m_subjects.try_emplace(kind);
    if (isNew)
        place->second = subjectsOf(kind, m_document.dossier());
    return place->second;
}

const std::string& StudyBook::keyOf(std::string_view id, const Subject& subject) const
{
    static const std::string none;
    if (m_keysOf != m_document.snapshot()) {
        m_keysOf = m_document.snapshot();
        m_fingerprint = fingerprintOf(*m_keysOf);
        onRecord();
        m_fingerprint.record = m_recordKey;
        m_keys.clear();
        m_subjects.clear();
    }
    const Study* study = studyNamed(id);
    if (!study)
        return none;
    auto [place, isNew] = m_keys.try_emplace({std::string(id), subject});
    if (isNew)
        place->second = study->key(*m_keysOf, subject, m_fingerprint);
    return place->second;
}

const StudyBook::Entry* StudyBook::freshEntry(std::string_view study, const Subject& subject) const
{
    const auto list = m_entries.find({std::string(study), subject});
    if (list == m_entries.end())
        return nullptr;
    const std::string& key = keyOf(study, subject);
    for (auto e = list->second.rbegin(); e != list->second.rend(); ++e)
        if (e->isWhole && e->key == key)
            return &*e;
    return nullptr;
}

const StudyBook::Entry* StudyBook::newestEntry(std::string_view study, const Subject& subject) const
{
    if (const Entry* e = freshEntry(study, subject); e && *e->result)
        return e;
    const auto list = m_entries.find({std::string(study), subject});
    if (list != m_entries.end())
        for (auto e = list->second.rbegin(); e != list->second.rend(); ++e)
            if (*e->result)
                return &*e;
    return nullptr;
}

const Error* StudyBook::trouble(std::string_view study, const Subject& subject) const
{
    const Entry* e = freshEntry(study, subject);
    return e && !*e->result ? &e->result->error() : nullptr;
}

Results StudyBook::results() const
{
    Results all;
    all.put(kOnRecord.id, {}, onRecord());
    for (const auto& [name, list] : m_entries)
        if (const Entry* e = freshEntry(name.first, name.second))
            all.put(name.first, name.second, *e->result);
    return all;
}

StudyBook::Known StudyBook::known() const
{
    Known known;
    known.m_entries = m_entries;
    return known;
}

void StudyBook::adopt(const Known& known)
{
    for (const auto& [name, entries] : known.m_entries)
        for (const Entry& e : entries) {
            auto& mine = m_entries[name];
            const bool has = std::any_of(
                mine.begin(), mine.end(), [&e](const Entry& other) { return other.key == e.key; });
            if (e.isWhole && !has)
                mine.push_back(e);
        }
    consider();
    emit changed();
}

/// Which of the results that it reads are there, or are there in vain.
std::string StudyBook::readsOf(const Study& study, const Subject& subject) const
{
    std::string reads;
    for (const std::string_view id : study.reads)
        for (const Subject& other : subjects(studyNamed(id)->about))
            if (bearsOn(other, subject)) {
                const Entry* e = freshEntry(id, other);
                reads += !e ? '-' : *e->result ? '1' : 'x';
            }
    return reads;
}

bool StudyBook::isDue(const Study& study, const Subject& subject) const
{
    const Entry* e = freshEntry(study.id, subject);
    return (!e || e->reads != readsOf(study, subject))
        && !m_declined.contains({{std::string(study.id), subject}, keyOf(study.id, subject)});
}

bool StudyBook::isReady(const Study& study, const Subject& subject) const
{
    for (const std::string_view id : study.after)
        for (const Subject& other : subjects(studyNamed(id)->about))
            if (bearsOn(other, subject) && !freshEntry(id, other))
                return false;
    return true;
}

bool StudyBook::runsByItself(const Study& study) const
{
    return study.cost != Cost::Long
        && (m_isLiving || study.about == Subject::Kind::Machine || study.cost == Cost::Instant);
}

const StudyJob* StudyBook::running(std::string_view study, const Subject& subject) const
{
    for (const StudyWorker* worker : {m_prompt.get(), m_patient.get()})
        if (const auto& job = worker->job(); job && job->study->id == study && job->subject == subject
            && !job->onlyRecalls && !job->stop.stop_requested())
            return job.get();
    return nullptr;
}

bool StudyBook::isBusy(std::string_view study, const Subject& subject) const
{
    return running(study, subject)
        || std::find(m_asked.begin(), m_asked.end(), Name{std::string(study), subject}) != m_asked.end();
}

bool StudyBook::isBehind() const
{
    if (m_prompt->job())
        return true;
    for (const Study& study : allStudies())
        for (const Subject& subject : subjects(study.about))
            if (willCome(study, subject))
                return true;
    return false;
}

bool StudyBook::willCome(const Study& study, const Subject& subject) const
{
    if (!runsByItself(study) || !isDue(study, subject))
        return false;
    for (const std::string_view id : study.after)
        for (const Subject& other : subjects(studyNamed(id)->about))
            if (bearsOn(other, subject) && !freshEntry(id, other) && !willCome(*studyNamed(id), other))
                return false;
    return true;
}

bool StudyBook::isWorking() const
{
    return m_prompt->job() || m_patient->job();
}

StudyBook::Progress StudyBook::progress(std::string_view study, const Subject& subject) const
{
    Progress p;
    auto* job = const_cast<StudyJob*>(running(study, subject)); // its clock only
    if (!job)
        return p;
    p.stage = job->progress->stage;
    p.done = job->progress->done;
    p.total = job->progress->total;
    p.found = job->progress->found;
    if (job->stage != p.stage) {
        job->stage = p.stage;
        job->clock.restart();
    }
    if (p.done > 0)
        p.secondsLeft = static_cast<double>(job->clock.elapsed()) / 1000.0
            * static_cast<double>(p.total - std::min(p.done, p.total)) / static_cast<double>(p.done);
    return p;
}

void StudyBook::ask(std::string_view study, const Subject& subject)
{
    const Name name{std::string(study), subject};
    m_declined.erase({name, keyOf(study, subject)});
    for (const std::string_view before : studyNamed(study)->after)
        if (!m_isLiving && !freshEntry(before, subject))
            ask(before, subject);
    if (std::find(m_asked.begin(), m_asked.end(), name) == m_asked.end())
        m_asked.push_back(name);
    if (const auto& job = m_patient->job();
        job && !job->isAsked && (job->study->id != study || job->subject != subject))
        job->stop.request_stop(); // nobody asked for that one
    m_tick.start();
    consider();
    emit progressed();
}

void StudyBook::cancel(std::string_view study, const Subject& subject)
{
    std::erase(m_asked, Name{std::string(study), subject});
    if (const StudyJob* job = running(study, subject)) {
        m_declined.insert({{std::string(study), subject}, job->key});
        std::stop_source(job->stop).request_stop();
    }
    emit changed();
}

void StudyBook::setInView(const Subject& subject)
{
    m_inView = subject;
}

void StudyBook::setLiving(bool living)
{
    m_isLiving = living;
    m_settle.start();
}

void StudyBook::setPatience(int ms)
{
    m_idle.stop();
    m_idle.setInterval(ms);
    if (ms >= 0)
        m_idle.start();
}

/// What runs for a dossier that is no more.
void StudyBook::dropStale()
{
    for (const StudyWorker* worker : {m_prompt.get(), m_patient.get()})
        if (const auto& job = worker->job(); job && job->key != keyOf(job->study->id, job->subject))
            job->stop.request_stop();
}

std::shared_ptr<StudyJob> StudyBook::jobFor(const Study& study, const Subject& subject, bool onlyRecalls) const
{
    auto job = std::make_shared<StudyJob>();
    job->study = &study;
    job->subject = subject;
    job->of = m_document.snapshot();
    job->key = keyOf(study.id, subject);
    job->reads = readsOf(study, subject);
    job->earlier = results();
    job->onlyRecalls = onlyRecalls;
    return job;
}

/// What is quick and due: Instant ones first, then what is in view; then whatever Long ones the disk may know.
std::shared_ptr<StudyJob> StudyBook::nextPrompt() const
{
    const Study* best = nullptr;
    Subject of;
    const auto rank = [this](const Study& s, const Subject& subject) {
        return (s.cost == Cost::Instant ? 0 : 2) + (subject == m_inView || s.about == Subject::Kind::Machine ? 0 : 1);
    };
    for (const Study& study : allStudies())
        if (runsByItself(study))
            for (const Subject& subject : subjects(study.about))
                if (isReady(study, subject) && isDue(study, subject)
                    && (!best || rank(study, subject) < rank(*best, of))) {
                    best = &study;
                    of = subject;
                }
    if (best)
        return jobFor(*best, of);
    for (const Study& study : allStudies())
        if (study.fromText && study.cost == Cost::Long)
            for (const Subject& subject : subjects(study.about))
                if (!freshEntry(study.id, subject)
                    && !m_notOnDisk.contains({{std::string(study.id), subject}, keyOf(study.id, subject)})
                    && !running(study.id, subject))
                    return jobFor(study, subject, true);
    return nullptr;
}

/// What was asked for, in that order; else, when nothing has been wanted for a while, what is Long and due.
std::shared_ptr<StudyJob> StudyBook::nextPatient()
{
    for (const Name& name : m_asked)
        if (const Study& study = *studyNamed(name.first);
            isReady(study, name.second) && !running(study.id, name.second)) {
            auto job = jobFor(study, name.second);
            job->isAsked = true;
            return job;
        }
    if (!m_isLiving || m_idle.isActive() || m_idle.interval() < 0 || m_prompt->job())
        return nullptr;
    for (const bool inView : {true, false})
        for (const Study& study : allStudies())
            if (study.cost == Cost::Long)
                for (const Subject& subject : subjects(study.about))
                    if ((subject == m_inView) == inView && isReady(study, subject) && isDue(study, subject))
                        return jobFor(study, subject);
    return nullptr;
}

void StudyBook::start(StudyWorker& worker, std::shared_ptr<StudyJob> job)
{
    if (!job)
        return;
    job->progress->onSoFar = [this, weak = std::weak_ptr(job)](Value value) {
        QMetaObject::invokeMethod(
            this,
            [this, weak, value = std::move(value)] {
                if (const auto still = weak.lock(); still && !still->stop.stop_requested())
                    takeEarly(still, value);
            },
            Qt::QueuedConnection);
    };
    worker.start(std::move(job));
}

/// Gives the workers what is to be done.
void StudyBook::consider()
{
    std::erase_if(m_asked, [this](const Name& n) {
        const auto& all = subjects(studyNamed(n.first)->about);
        return std::find(all.begin(), all.end(), n.second) == all.end();
    });
    if (!m_prompt->job())
        start(*m_prompt, nextPrompt());
    if (!m_patient->job())
        start(*m_patient, nextPatient());
    if (m_asked.empty() && !m_patient->job())
        m_tick.stop();
    else if (!m_tick.isActive())
        m_tick.start();
}

void StudyBook::take(const std::shared_ptr<StudyJob>& job, std::shared_ptr<const Expected<Value>> result)
{
    const Name name{std::string(job->study->id), job->subject};
    const bool wasAsked = !job->onlyRecalls && std::erase(m_asked, name) > 0;
    if (job->onlyRecalls && !result)
        m_notOnDisk.insert({name, job->key});
    if (result) {
        auto& list = m_entries[name];
        std::erase_if(list, [&job](const Entry& e) { return e.key == job->key; });
        list.push_back({job->key, job->reads, std::move(result), job->of, true});
        if (list.size() > kMostOfOne)
            list.erase(list.begin());
        keepWithinBounds();
    }
    consider();
    emit changed();
    if (wasAsked)
        emit ended(QString::fromStdString(name.first));
}

/// What is there before the whole: it never counts as the result.
void StudyBook::takeEarly(const std::shared_ptr<StudyJob>& job, Value value)
{
    auto& list = m_entries[{std::string(job->study->id), job->subject}];
    std::erase_if(list, [](const Entry& e) { return !e.isWhole; });
    list.push_back({job->key, job->reads, std::make_shared<const Expected<Value>>(std::move(value)), job->of, false});
    emit changed();
}

/// What does not hold any more goes first.
void StudyBook::keepWithinBounds()
{
    const auto bytes = [this] {
        std::size_t sum = 0;
        for (const auto& [name, list] : m_entries)
            for (const Entry& e : list)
                sum += *e.result ? (*e.result)->bytes() : 0;
        return sum;
    };
    for (auto& [name, list] : m_entries) {
        if (bytes() <= kMostBytes)
            return;
        const std::string& key = keyOf(name.first, name.second);
        std::erase_if(list, [&key](const Entry& e) { return e.key != key; });
    }
}

} // namespace ts::app
