#pragma once
// Texts that are kept in the repository and compared. TS_UPDATE_GOLDEN=1 writes them anew; read the diff before you
// commit.

#include "core/io/dossier_file.h"

#include <gtest/gtest.h>

#include <cstdlib>
#include <string>

namespace ts::test {

inline void expectGolden(const std::string& relative, const std::string& actual)
{
    const std::string path = std::string(TS_SOURCE_DIR) + "/" + relative;
    if (std::getenv("TS_UPDATE_GOLDEN")) {
        ASSERT_TRUE(io::saveText(path, actual));
        return;
    }
    const auto kept = io::systemFiles().read(path);
    ASSERT_TRUE(kept) << path;
    EXPECT_TRUE(*kept == actual) << relative << " differs; tools/update_golden writes it anew";
}

} // namespace ts::test
