#pragma once
// Every question that stops the program until it is answered, behind one interface, so that tests can answer.

#include <QString>
#include <QStringList>

class QPrinter;
class QWidget;

namespace ts::app {

class Asker {
public:
    enum class Unsaved { Save, Discard, Cancel };
    enum class Foreign { Overwrite, SaveElsewhere, Cancel };
    enum class Found { Open, Later, Discard };
    virtual ~Asker() = default;
    /// A path, or empty if the person changed their mind.
    virtual QString fileToOpen(const QString& folder, const QString& filter) = 0;
    virtual QString fileToSave(const QString& suggestion, const QString& filter) = 0;
    virtual Unsaved aboutUnsaved(const QString& name) = 0;
    /// Somebody else wrote the file that is about to be saved.
    virtual Foreign aboutForeignChange(const QString& name) = 0;
    /// Work that was not saved was found.
    virtual Found aboutLeftover(const QString& what) = 0;
    /// One of a list, or -1.
    virtual int choose(const QString& question, const QStringList& list) = 0;
    /// Sets the printer up; false if the person changed their mind.
    virtual bool choosePrinter(QPrinter& printer) = 0;
    /// Something could not be done; needs no answer.
    virtual void tell(const QString& what) = 0;
};

class DialogAsker : public Asker {
public:
    explicit DialogAsker(QWidget* parent)
        : m_parent(parent)
    {
    }
    QString fileToOpen(const QString& folder, const QString& filter) override;
    QString fileToSave(const QString& suggestion, const QString& filter) override;
    Unsaved aboutUnsaved(const QString& name) override;
    Foreign aboutForeignChange(const QString& name) override;
    Found aboutLeftover(const QString& what) override;
    int choose(const QString& question, const QStringList& list) override;
    bool choosePrinter(QPrinter& printer) override;
    void tell(const QString& what) override;

private:
    QWidget* m_parent;
};

/// For runs without a person: says what went wrong on standard error and never waits.
class ConsoleAsker : public Asker {
public:
    QString fileToOpen(const QString&, const QString&) override { return {}; }
    QString fileToSave(const QString&, const QString&) override { return {}; }
    Unsaved aboutUnsaved(const QString&) override { return Unsaved::Discard; }
    Foreign aboutForeignChange(const QString&) override { return Foreign::Cancel; }
    Found aboutLeftover(const QString&) override { return Found::Later; }
    int choose(const QString&, const QStringList&) override { return -1; }
    bool choosePrinter(QPrinter&) override { return false; }
    void tell(const QString& what) override;
};

} // namespace ts::app
