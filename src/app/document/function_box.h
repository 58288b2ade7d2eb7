#pragma once
// The dossier's safety functions to choose from. What is chosen in one place is chosen in all of them.

#include "app/document/document.h"
#include "app/document/selection.h"

#include <QComboBox>

namespace ts::app {

class FunctionBox : public QComboBox {
    Q_OBJECT
public:
    FunctionBox(const Document& document, Selection& selection, const char* name, QWidget* parent);
    /// The one chosen, or the dossier's first; none in a dossier without.
    FunctionId function() const { return m_selection.functionIn(m_document.dossier()); }

signals:
    /// Another one was chosen, here or elsewhere. Changes of the dossier are the document's to tell.
    void chosen();

private:
    void fill();

    const Document& m_document;
    Selection& m_selection;
};

} // namespace ts::app
