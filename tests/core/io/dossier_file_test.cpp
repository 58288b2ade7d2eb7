// Saving: whichever step fails, the disk holds the whole old or the whole new text.

#include "core/io/dossier_file.h"

#include <gtest/gtest.h>

#include <cstdio>
#include <filesystem>
#include <fstream>
#include <map>
#include <sys/stat.h>

namespace ts::io {
namespace {

/// A disk in memory that fails at its n-th operation and may write half a file when it does.
class FailingDisk : public FileOps {
public:
    std::map<std::string, std::string> files;
    int failAt = 0, done = 0;

    Expected<std::string> read(const std::string& path) override
    {
        if (fails())
            return trouble();
        const auto it = files.find(path);
        return it == files.end() ? Expected<std::string>(trouble()) : Expected<std::string>(it->second);
    }
    Expected<std::string> placeOf(const std::string& path) override
    {
        return fails() ? Expected<std::string>(trouble()) : Expected<std::string>(path);
    }
    Expected<std::string> writeBeside(const std::string& path, std::string_view text) override
    {
        if (fails())
            return trouble();
        files[path + ".new"] = text;
        return path + ".new";
    }
    Expected<void> rename(const std::string& from, const std::string& to) override
    {
        if (fails())
            return trouble();
        files[to] = files.at(from);
        files.erase(from);
        return {};
    }
    Expected<void> syncFolderOf(const std::string&) override
    {
        return fails() ? Expected<void>(trouble()) : Expected<void>();
    }
    Expected<void> remove(const std::string& path) override
    {
        if (fails())
            return trouble();
        files.erase(path);
        return {};
    }

private:
    bool fails() { return ++done == failAt; }
    static Unexpected trouble()
    {
        return failure(ErrorCode::File, message("file.cannot_write", {std::string("x"), std::string("disk full")}));
    }
};

TEST(SaveText, LeavesOldOrNewWhicheverStepFails)
{
    int failures = 0;
    for (int n = 1; n < 12; ++n) {
        FailingDisk disk;
        disk.files["a"] = "old text";
        disk.failAt = n;
        const bool ok = saveText("a", "new text", disk).has_value();
        EXPECT_TRUE(disk.files.at("a") == "old text" || disk.files.at("a") == "new text") << "step " << n;
        if (ok)
            EXPECT_EQ(disk.files.at("a"), "new text");
        failures += !ok;
    }
    EXPECT_EQ(failures, 5) << "place, write, rename, sync of the folder, reading back";
}

TEST(SaveText, NoticesADiskThatLies)
{
    class Liar : public FailingDisk {
    public:
        Expected<std::string> read(const std::string&) override { return std::string("something else"); }
    } disk;
    const auto saved = saveText("a", "new text", disk);
    ASSERT_FALSE(saved);
    EXPECT_EQ(saved.error().message.id, "file.reads_back_different");
}

TEST(SystemFiles, ReplaceAndRefuseWithReason)
{
    const auto folder = std::filesystem::temp_directory_path() / "tall_sentry_file_test";
    std::filesystem::create_directories(folder);
    const std::string path = folder / "x.sentry";
    ASSERT_TRUE(saveText(path, "one"));
    ASSERT_TRUE(saveText(path, "two"));
    EXPECT_EQ(*systemFiles().read(path), "two");
    EXPECT_EQ(std::distance(std::filesystem::directory_iterator(folder), {}), 1) << "nothing is left beside it";
    EXPECT_EQ(systemFiles().read(folder / "absent").error().message.id, "file.cannot_open");
    EXPECT_EQ(systemFiles().read(folder).error().message.id, "file.not_a_file");
    EXPECT_EQ(saveText((folder / "no/such/folder/x").string(), "t").error().code, ErrorCode::File);
    std::filesystem::remove_all(folder);
}

TEST(SystemFiles, KeepLinksAndWhoMayRead)
{
    namespace fs = std::filesystem;
    const auto folder = fs::temp_directory_path() / "tall_sentry_link_test";
    fs::remove_all(folder);
    fs::create_directories(folder);
    const std::string file = folder / "real.sentry", link = folder / "link.sentry", own = folder / "real.sentry.part";
    ASSERT_TRUE(saveText(file, "one"));
    ASSERT_TRUE(saveText(own, "mine"));
    fs::permissions(file, fs::perms::owner_read | fs::perms::owner_write);
    fs::create_symlink("real.sentry", link);
    ASSERT_TRUE(saveText(link, "two"));
    EXPECT_TRUE(fs::is_symlink(link));
    EXPECT_EQ(*systemFiles().read(file), "two");
    EXPECT_EQ(fs::status(file).permissions(), fs::perms::owner_read | fs::perms::owner_write);
    EXPECT_EQ(*systemFiles().read(own), "mine") << "somebody's own file of a likely name";
    EXPECT_TRUE(saveText(folder / std::string(250, 'n'), "three")) << "as long as a name may nearly be";
    fs::create_symlink("nowhere", folder / "astray");
    EXPECT_EQ(saveText(folder / "astray", "t").error().message.id, "file.not_a_file");
    ASSERT_EQ(::mkfifo((folder / "pipe").c_str(), 0600), 0);
    EXPECT_EQ(saveText(folder / "pipe", "t").error().message.id, "file.not_a_file");
    fs::remove_all(folder);
}

TEST(LoadDossier, ErrorsCarryThePath)
{
    FailingDisk disk;
    disk.files["bad"] = "{\n \"format\": 3 }";
    const auto loaded = loadDossier("bad", disk);
    ASSERT_FALSE(loaded);
    EXPECT_EQ(loaded.error().place.file, "bad");
    EXPECT_EQ(loaded.error().place.line, 2);
    EXPECT_EQ(loaded.error().place.pointer, "/format");
}

} // namespace
} // namespace ts::io
