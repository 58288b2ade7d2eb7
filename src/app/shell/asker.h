#pragma once
// Every question that stops the program until it is answered, behind one interface, so that tests can answer.

#include <QString>

class QPrinter;
class QWidget;

namespace ts::app {

class Asker {
public:
    enum class Unsaved { Save, Discard, Cancel };
    virtual ~Asker() = default;
    /// A path, or empty if the person changed their mind.
    virtual QString fileToOpen(const QString& folder, const QString& filter) = 0;
    virtual QString fileToSave(const QString& suggestion, const QString& filter) = 0;
    virtual Unsaved aboutUnsaved(const QString& name) = 0;
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
    bool choosePrinter(QPrinter&) override { return false; }
    void tell(const QString& what) override;
};

} // namespace ts::app
