#include "app/shell/asker.h"

#include <QCoreApplication>
#include <QFileDialog>
#include <QInputDialog>
#include <QMessageBox>
#include <QPrintDialog>
#include <QPrinter>
#include <QPushButton>

#include <cstdio>

namespace ts::app {
namespace {
QString tr(const char* text)
{
    return QCoreApplication::translate("Asker", text);
}
} // namespace

QString DialogAsker::fileToOpen(const QString& folder, const QString& filter)
{
    return QFileDialog::getOpenFileName(m_parent, tr("Open"), folder, filter + tr(";;All files (*)"));
}

QString DialogAsker::fileToSave(const QString& suggestion, const QString& filter)
{
    return QFileDialog::getSaveFileName(m_parent, tr("Save as"), suggestion, filter);
}

Asker::Unsaved DialogAsker::aboutUnsaved(const QString& name)
{
    QMessageBox box(QMessageBox::Question, tr("Unsaved changes"), tr("%1 has changes that are not saved.").arg(name),
        QMessageBox::NoButton, m_parent);
    const QAbstractButton* save = box.addButton(tr("Save"), QMessageBox::AcceptRole);
    const QAbstractButton* discard = box.addButton(tr("Discard changes"), QMessageBox::DestructiveRole);
    box.addButton(tr("Go back"), QMessageBox::RejectRole);
    box.exec();
    return box.clickedButton() == save   ? Unsaved::Save
        : box.clickedButton() == discard ? Unsaved::Discard
                                         : Unsaved::Cancel;
}

Asker::Foreign DialogAsker::aboutForeignChange(const QString& name)
{
    QMessageBox box(QMessageBox::Warning, tr("Changed by somebody else"),
        tr("%1 was changed on the disk since it was opened here. What lies there now would be replaced; it is kept "
           "among the earlier saves.")
            .arg(name),
        QMessageBox::NoButton, m_parent);
    box.setTextFormat(Qt::PlainText);
    const QAbstractButton* elsewhere = box.addButton(tr("Save under another name ..."), QMessageBox::AcceptRole);
    const QAbstractButton* overwrite = box.addButton(tr("Replace it"), QMessageBox::DestructiveRole);
    box.addButton(tr("Go back"), QMessageBox::RejectRole);
    box.exec();
    return box.clickedButton() == elsewhere ? Foreign::SaveElsewhere
        : box.clickedButton() == overwrite  ? Foreign::Overwrite
                                            : Foreign::Cancel;
}

Asker::Found DialogAsker::aboutLeftover(const QString& what)
{
    QMessageBox box(QMessageBox::Question, tr("Work that was not saved"), what, QMessageBox::NoButton, m_parent);
    box.setTextFormat(Qt::PlainText);
    const QAbstractButton* open = box.addButton(tr("Open it"), QMessageBox::AcceptRole);
    const QAbstractButton* discard = box.addButton(tr("Throw it away"), QMessageBox::DestructiveRole);
    box.addButton(tr("Ask again later"), QMessageBox::RejectRole);
    box.exec();
    return box.clickedButton() == open ? Found::Open : box.clickedButton() == discard ? Found::Discard : Found::Later;
}

int DialogAsker::choose(const QString& question, const QStringList& list)
{
    bool isChosen = false;
    const QString chosen = QInputDialog::getItem(m_parent, tr("Tall Sentry"), question, list, 0, false, &isChosen);
    return isChosen ? static_cast<int>(list.indexOf(chosen)) : -1;
}

bool DialogAsker::choosePrinter(QPrinter& printer)
{
    QPrintDialog dialog(&printer, m_parent);
    return dialog.exec() == QDialog::Accepted;
}

void DialogAsker::tell(const QString& what)
{
    QMessageBox box(QMessageBox::Warning, tr("Tall Sentry"), what, QMessageBox::Ok, m_parent);
    box.setTextFormat(Qt::PlainText);
    box.exec();
}

void ConsoleAsker::tell(const QString& what)
{
    std::fprintf(stderr, "%s\n", qPrintable(what));
}

} // namespace ts::app
