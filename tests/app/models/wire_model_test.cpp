// The wire list's model under Qt's own model tester: rows come, go and move, and what is selected stays selected.

#include "app/models/wire_model.h"

#include <QAbstractItemModelTester>
#include <QPersistentModelIndex>

#include <gtest/gtest.h>

namespace ts::app {
namespace {

std::vector<WireRow> rows(std::initializer_list<int> ids)
{
    std::vector<WireRow> all;
    for (int id : ids)
        all.push_back({{id}, QString::number(all.size() + 1), "control", QString::number(id), "S1:12", "S2:13", "1 mm2",
            "1 m", "", ""});
    return all;
}

TEST(WireModel, RowsComeGoAndMoveUnderTheTester)
{
    WireModel model;
    QAbstractItemModelTester tester(&model, QAbstractItemModelTester::FailureReportingMode::Fatal);
    model.setRows(rows({1, 2, 3, 4}));
    const QPersistentModelIndex three = model.index(2, WireModel::Number);
    model.setRows(rows({4, 3, 9, 1}));
    EXPECT_TRUE(three.isValid());
    EXPECT_EQ(three.row(), 1);
    EXPECT_EQ(three.data().toString(), "3");
    EXPECT_EQ(model.rowOf({9}), 2);
    EXPECT_EQ(model.rowOf({2}), -1);
    model.setRows(rows({1, 2, 3, 4}));
    EXPECT_EQ(three.row(), 2) << "as after an undo";
    model.setRows({});
    EXPECT_FALSE(three.isValid());
    EXPECT_EQ(model.wireAt(0), WireId{});
}

} // namespace
} // namespace ts::app
