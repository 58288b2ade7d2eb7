#include "app/shell/asker.h"

#include <QCoreApplication>
#include <QFileDialog>
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
