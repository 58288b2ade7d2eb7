#include "app/document/function_box.h"

namespace ts::app {

FunctionBox::FunctionBox(const Document& document, Selection& selection, const char* name, QWidget* parent)
    : QComboBox(parent)
    , m_document(document)
    , m_selection(selection)
{
    setObjectName(QLatin1String(name));
    setAccessibleName(tr("Safety function"));
    setMinimumWidth(190);
    connect(&document, &Document::changed, this, &FunctionBox::fill);
    connect(&selection, &Selection::functionChosen, this, [this] {
        setCurrentIndex(findData(function().value));
        emit chosen();
    });
    connect(this, &QComboBox::activated, this, [this](int k) { m_selection.chooseFunction({itemData(k).toInt()}); });
    fill();
}

void FunctionBox::fill()
{
    clear();
    for (const SafetyFunction& f : m_document.dossier().functions)
        addItem(QString::fromStdString(f.name), f.id.value);
    setCurrentIndex(findData(function().value));
}

} // namespace ts::app
