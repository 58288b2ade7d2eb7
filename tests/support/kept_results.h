#pragma once
// A folder of results for one run of a test program: what one test had worked out the next finds again, as a person
// does; nothing of an earlier run.

#include <gtest/gtest.h>

#include <cstdlib>
#include <filesystem>
#include <string>

namespace ts::test {

inline const std::string& keptResults()
{
    static const struct Folder {
        Folder()
            : path((std::filesystem::temp_directory_path() / "tall-sentry-results-XXXXXX").string())
        {
            EXPECT_NE(::mkdtemp(path.data()), nullptr) << path;
        }
        ~Folder() { std::filesystem::remove_all(path); }
        std::string path;
    } folder;
    return folder.path;
}

} // namespace ts::test
