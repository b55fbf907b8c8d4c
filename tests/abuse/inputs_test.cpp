// SPDX-License-Identifier: GPL-3.0-or-later
// What comes in: hostile, broken, endless, in other encodings. Each ends by itself, with a message,
// and changes nothing.
#include <sys/stat.h>

#include "abuse/abuse.h"

namespace conductus::shop {
namespace {

using namespace test;
using files::Json;

class Inputs : public testing::Test {
protected:
    void SetUp() override {
        make_worked_book(folder_ / "shop.book");
        Book book = fresh(folder_ / "shop.book");
        before_ = everything(book);
    }
    void TearDown() override {
        auto book = Book::open(folder_ / "shop.book", Access::read_only);
        ASSERT_TRUE(book);
        EXPECT_EQ(everything(*book), before_) << "a refusal changes nothing";
        EXPECT_TRUE(book->verify());
    }
    std::string shop(const std::string& action) {
        return "shop " + (folder_ / "shop.book").string() + " " + action;
    }
    /// Refused by the import and by a command that reads a job, in one line with a remedy.
    void refused(const fs::path& path, const std::string& says = "") {
        for (const std::string& command :
             {shop("import '" + path.string() + "'"), "plan '" + path.string() + "'",
              "plan --json '" + path.string() + "'"}) {
            const Ran ran = bounded(command);
            EXPECT_EQ(ran.code, 3) << command << ran.err.substr(0, 300);
            EXPECT_LT(ran.err.size(), 2500u) << command;
            EXPECT_EQ(std::count(ran.err.begin(), ran.err.end(), '\n'), 1) << ran.err;
            EXPECT_NE(ran.err.find(". "), std::string::npos) << "a remedy: " << ran.err;
            EXPECT_EQ(ran.err.find("json.exception"), std::string::npos) << ran.err;
            EXPECT_EQ(ran.err.find("last read"), std::string::npos) << ran.err;
            if (!says.empty()) {
                EXPECT_NE(ran.err.find(says), std::string::npos) << ran.err;
            }
        }
    }
    TemporaryFolder folder_;
    std::string before_;
};

TEST_F(Inputs, LargeAndDeepOnesEnd) {
    std::string keys = "{\"format\": \"conductus-job\", \"version\": 1";
    for (int i = 0; i < 200000; ++i)
        keys += fmt::format(", \"k{}\": 0", i);
    write_file(folder_ / "keys.json", keys + "}");
    refused(folder_ / "keys.json", "is not known here");

    std::string objects = "[{}";
    objects.reserve(60'000'010);
    while (objects.size() < 60'000'000)
        objects += ",{}";
    write_file(folder_ / "objects.json", objects + "]");
    refused(folder_ / "objects.json", "values");

    write_file(folder_ / "deep.json", std::string(5'000'000, '['));
    refused(folder_ / "deep.json", "nested");
    write_file(folder_ / "long.json", "{\"" + std::string(50'000'000, 'x') + "\": 1}");
    refused(folder_ / "long.json");
    write_file(folder_ / "text.json", "{\"format\": \"" + std::string(50'000'000, 'y') + "\"}");
    refused(folder_ / "text.json");
    write_file(folder_ / "number.json", "{\"version\": " + std::string(1'000'000, '9') + "}");
    refused(folder_ / "number.json");
    write_file(folder_ / "twice.json", "{\"a\": 1, \"a\": 2}");
    refused(folder_ / "twice.json", "twice");
}

TEST_F(Inputs, WhatIsNoFileIsNotWaitedFor) {
    ASSERT_EQ(::mkfifo((folder_ / "pipe").c_str(), 0600), 0);
    refused(folder_ / "pipe", "pipe");
    refused("/dev/zero", "device");
    refused("/dev/tty");
    refused(folder_ / "none", "no such file");
    // As a book, as a table, and as what a book is made of.
    for (const std::string& command : std::vector<std::string>{
             "shop " + (folder_ / "pipe").string() + " list", "shop /dev/zero verify",
             shop("restore " + (folder_ / "pipe").string()),
             "plan Heron@" + (folder_ / "pipe").string(),
             "harness " + (source_dir() / "data/demo/heron.json").string() + " --wires " +
                 (folder_ / "pipe").string()}) {
        const Ran ran = bounded(command);
        EXPECT_EQ(ran.code, 3) << command << ran.err;
    }
}

TEST_F(Inputs, EncodingsAreRecognisedOrRefusedWithTheirPlace) {
    const std::string heron = (source_dir() / "data/demo/heron.json").string();
    const std::string table = "ref,from,to,colour\nW90,B1.plus,K1.a,ro\xe9\n";
    write_file(folder_ / "latin.csv", table);
    for (const char* json : {"", " --json"}) {
        const Ran ran =
            bounded("harness " + heron + " --wires " + (folder_ / "latin.csv").string() + json);
        EXPECT_EQ(ran.code, 3);
        EXPECT_NE(ran.err.find("line 2, column 20"), std::string::npos) << ran.err;
        EXPECT_NE(ran.err.find("UTF-8"), std::string::npos) << ran.err;
    }
    // UTF-8 with and without its mark, and UTF-16 with one, say the same.
    job::Job job = files::bare(demo("heron"));
    job.wires.resize(2);
    const std::string name = (folder_ / "job.json").string();
    write_file(name, files::job_text(job));
    const std::string utf8 = "ref,from,to,colour\nW90,B1.plus,K1.in,ros\xc3\xa9\n";
    std::string little = "\xff\xfe", big = "\xfe\xff";
    for (const char32_t c : U"ref,from,to,colour\nW90,B1.plus,K1.in,ros\u00e9\n") {
        if (c == 0) break;
        little += {static_cast<char>(c & 0xff), static_cast<char>(c >> 8)};
        big += {static_cast<char>(c >> 8), static_cast<char>(c & 0xff)};
    }
    std::set<std::string> said;
    for (const std::string& text : {utf8, "\xef\xbb\xbf" + utf8, little, big}) {
        write_file(folder_ / "wires.csv", text);
        const Ran ran =
            bounded("harness " + name + " --json --wires " + (folder_ / "wires.csv").string());
        said.insert(ran.out + ran.err);
    }
    EXPECT_EQ(said.size(), 1u);
    // A path that is not UTF-8 is read like any other, and shown escaped.
    const std::string odd = (folder_ / "h\xe9ron.json").string();
    write_file(odd, files::job_text(files::bare(demo("heron"))));
    EXPECT_EQ(bounded("plan --json '" + odd + "'").code, 1) << "Heron has a stop";
    write_file(odd, "{");
    const Ran bad = bounded("plan --json '" + odd + "'");
    EXPECT_EQ(bad.code, 3);
    EXPECT_NE(bad.err.find("h\\xE9ron"), std::string::npos) << bad.err;
    EXPECT_EQ(bounded("shop " + (folder_ / "b\xe9k.book").string() + " import " + name).code, 0);
    EXPECT_EQ(bounded("shop " + (folder_ / "b\xe9k.book").string() + " export " +
                      (folder_ / "o\xe9t").string() + " --json")
                  .code,
              0);
    EXPECT_EQ(bounded("shop " + (folder_ / "b\xe9k.book").string() + " verify --json").code, 0);
}

TEST_F(Inputs, TablesOfAnyLength) {
    const std::string heron = (source_dir() / "data/demo/heron.json").string();
    const auto wires = [&](const std::string& table) {
        write_file(folder_ / "wires.csv", table);
        return bounded("harness " + heron + " --wires " + (folder_ / "wires.csv").string() +
                       " -o " + (folder_ / "new.json").string());
    };
    std::string many = "from,to\n";
    for (int i = 0; i < 1'000'000; ++i)
        many += "B1.plus,K1.in\n";
    EXPECT_EQ(wires(many).code, 3);
    std::string rows = "from,to\n";
    for (int i = 0; i < 1200; ++i)
        rows += "B1.plus,U1.bat\n";
    const Ran more = wires(rows);
    EXPECT_EQ(more.code, 3);
    EXPECT_NE(more.err.find("1000"), std::string::npos) << more.err;
    EXPECT_EQ(wires("from,to,colour\nB1.plus,U1.bat," + std::string(5000, 'r') + "\n").code, 3);
    EXPECT_EQ(wires("from,to\nB1.plus,U1.bat,extra\n").code, 3) << "a cell no column is over";
    EXPECT_EQ(wires("from,to\nU1.bat,U1.bat\n").code, 3) << "a wire to itself";
    EXPECT_EQ(wires("from,to\n\"B1.plus,U1.bat\n").code, 3);
    EXPECT_EQ(wires("").code, 3);
    EXPECT_EQ(wires(std::string(3, '\0')).code, 3);
    EXPECT_FALSE(fs::exists(folder_ / "new.json")) << "nothing was written";
    // What is written can be read.
    ASSERT_EQ(wires("from,to\nB1.plus,U1.bat\n").code, 0);
    EXPECT_NE(bounded("plan " + (folder_ / "new.json").string()).code, 3);
    EXPECT_TRUE(files::read_job_file(folder_ / "new.json", parts())) << "with all it names";
}

TEST_F(Inputs, NumbersAndOptionsThatSayNothing) {
    const std::string job = (source_dir() / "data/demo/dunlin.json").string();
    for (const std::string& command :
         {"cap " + job + " --for nan",
          "cap " + job + " --for inf",
          "cap " + job + " --for ''",
          "cap " + job + " --for 0x10",
          "cap " + job + " --for 1e999",
          "cap " + job + " --for -3",
          "size-wires " + job + " --budget-mV nan",
          "size-wires " + job + " --budget-mV 3mV",
          "export " + job + " --as spice --seconds nan -o " + (folder_ / "n.cir").string(),
          "solve " + job + " --soc nan",
          "solve " + job + " --soc 1.1",
          "solve " + job + " --soc -nan",
          "solve " + job + " --repeat 1.5",
          "runtime " + job + " --seed -1",
          "runtime " + job + " --seed 99999999999999999999",
          "runtime " + job + " --days nan",
          "export " + job + " --as cutlist --look nolook",
          "export " + job + " --as labels --soc 0.5",
          "export " + job + " --as config --state idle",
          "export " + job + " --as cutlist --seconds 3",
          "harness " + job + " --wires ''",
          "harness " + job + " -o ''",
          shop("list --csv --json")}) {
        const Ran ran = bounded(command);
        EXPECT_EQ(ran.code, 2) << command << ": " << ran.err;
        EXPECT_FALSE(ran.err.empty()) << command;
    }
    const Ran nan = bounded("cap " + job + " --for nan");
    EXPECT_NE(nan.err.find("between 0.1 and 10000"), std::string::npos) << nan.err;
    EXPECT_EQ(bounded("solve " + job + " --state idle --look Moonrise").code, 3);
    EXPECT_NE(bounded("frobnicate").err.find("'frobnicate'"), std::string::npos);
    EXPECT_NE(bounded(shop("frobnicate")).err.find("'frobnicate'"), std::string::npos);
}

TEST_F(Inputs, HistoriesThatGrowOutOfLittle) {
    const fs::path out = folder_ / "out";
    {
        auto book = Book::open(folder_ / "shop.book", Access::read_only);
        ASSERT_TRUE(export_folder(*book, out, parts()));
    }
    Json manifest = *files::parse_json(read_file(out / "book.json"), "");
    manifest.erase("hashes"); // as an older export, in which nothing is held against its hash
    write_file(out / "book.json", manifest.dump());
    const fs::path file = fs::directory_iterator(out / "history")->path();
    const Json good = *files::parse_json(read_file(file), "");
    const auto refused_with = [&](const Json& change, const char* why) {
        Json history = good;
        history["states"][1]["change"] = change;
        history["states"][1].erase("hash");
        write_file(file, history.dump());
        const Ran ran = bounded(shop("import " + out.string()));
        EXPECT_EQ(ran.code, 3) << why << ran.err;
        write_file(file, good.dump());
    };
    Json copies = Json::array();
    for (int i = 0; i < 60; ++i)
        copies.push_back({{"op", "copy"}, {"from", ""}, {"path", "/notes"}});
    refused_with(copies, "a copy of all in itself, sixty times");
    refused_with(Json::array({{{"op", "move"}, {"from", "/name"}, {"path", "/notes"}}}), "move");
    refused_with(Json::array({{{"op", "test"}, {"path", "/name"}, {"value", "x"}}}), "test");
    refused_with(Json::array({{{"op", "add"}, {"path", "/notes/0/0"}, {"value", 1}}}), "nowhere");
    refused_with(Json::array({Json("add")}), "no operation");
    refused_with(Json::array({{{"op", "remove"}, {"path", "/looks"}}}), "then it is no job");
}

TEST_F(Inputs, AnExportedFolderThatWasAltered) {
    const fs::path out = folder_ / "out";
    {
        auto book = Book::open(folder_ / "shop.book", Access::read_only);
        ASSERT_TRUE(export_folder(*book, out, parts()));
    }
    int altered = 0;
    for (const auto& e : fs::recursive_directory_iterator(out)) {
        if (!e.is_regular_file()) continue;
        const std::string good = read_file(e.path());
        // One letter, in the middle of what it says.
        std::string bad = good;
        bad[good.size() / 2] = bad[good.size() / 2] == 'a' ? 'b' : 'a';
        write_file(e.path(), bad);
        EXPECT_EQ(bounded(shop("import " + out.string())).code, 3) << e.path();
        write_file(e.path(), good.substr(0, good.size() / 2));
        EXPECT_EQ(bounded(shop("import " + out.string())).code, 3) << e.path();
        write_file(e.path(), good);
        ++altered;
    }
    EXPECT_GT(altered, 8);
    // A job file alone is held to its hashes, too.
    Json job = *files::parse_json(read_file(source_dir() / "data/demo/avocet.json"), "");
    job["kept"].begin().value()["notes"] = "never said";
    write_file(folder_ / "avocet.json", job.dump(2));
    EXPECT_EQ(bounded(shop("import " + (folder_ / "avocet.json").string())).code, 3);
}

TEST_F(Inputs, ManyStatesComeIn) {
    // A history of many states of one job, as an exported folder.
    const fs::path out = folder_ / "many";
    Json states = Json::array();
    const job::Job dunlin = files::bare(demo("dunlin"));
    states.push_back({{"label", "new"},
                      {"at", "2026-11-01T10:00:00Z"},
                      {"change", Json::diff(Json::object(), files::job_json(dunlin))}});
    const int count = times(1500);
    for (int i = 1; i < count; ++i)
        states.push_back({{"label", "note"},
                          {"at", "2026-11-01T10:00:00Z"},
                          {"change", Json::array({{{"op", "replace"},
                                                   {"path", "/notes"},
                                                   {"value", fmt::format("note {}", i)}}})}});
    fs::create_directories(out / "history");
    write_file(out / "history/a.json", Json{{"format", "conductus-history"},
                                            {"version", 1},
                                            {"current", count - 1},
                                            {"states", states}}
                                           .dump());
    write_file(out / "book.json",
               Json{{"format", "conductus-book"}, {"version", 1}, {"jobs", {"a"}}}.dump());
    const fs::path book = folder_ / "many.book";
    ASSERT_EQ(bounded("shop " + book.string() + " import " + out.string()).code, 0);
    auto in = Book::open(book, Access::read_only);
    const auto entries = in->entries();
    const auto id = entries->front().id;
    EXPECT_EQ(in->history(id)->size(), static_cast<std::size_t>(count));
    EXPECT_EQ(in->load(id, parts())->job.notes, fmt::format("note {}", count - 1));
    const auto each = static_cast<double>(fs::file_size(book)) / count;
    fmt::print("{} states: {:.0f} bytes each, of {} that a document has\n", count, each,
               files::job_text(dunlin).size());
    EXPECT_LT(each, 1500) << "a history of 3,000 edits takes a few MB";
    EXPECT_TRUE(in->verify());
}

TEST_F(Inputs, OwnPartsTravelAndWhatIsUnknownIsKept) {
    // A cell of one's own, on a machine that has it.
    const fs::path home = folder_ / "home";
    fs::create_directories(home / "conductus/catalogue");
    Json catalogue;
    for (const auto& e : fs::directory_iterator(source_dir() / "data/catalogue")) {
        const Json file = *files::parse_json(read_file(e.path()), "");
        for (const Json& part : file["parts"])
            if (part["id"] == "cell.18350") {
                Json own = part;
                own["id"] = "cell.own";
                own["name"] = "a cell of our own";
                catalogue = {{"format", "conductus-catalogue"},
                             {"version", 1},
                             {"parts", Json::array({own})}};
            }
    }
    ASSERT_FALSE(catalogue.is_null());
    write_file(home / "conductus/catalogue/own.json", catalogue.dump(2));
    // Beside it one that is broken, which is said, with its line, and changes nothing else.
    write_file(home / "conductus/catalogue/x.json", "{\n  \"format\":5}");
    job::Job job = files::bare(demo("dunlin"));
    for (job::Part& part : job.parts)
        if (parts().find_as<catalogue::Cell>(part.type)) part.type = "cell.own";
    write_file(folder_ / "own.json", files::job_text(job));
    const fs::path book = folder_ / "own.book";
    const std::string there = "XDG_DATA_HOME=" + home.string() + " ";
    const std::string with = program() + " shop " + book.string() + " ";
    const Ran imported = run(there + with + "import " + (folder_ / "own.json").string());
    ASSERT_EQ(imported.code, 0) << imported.err;
    EXPECT_NE(imported.err.find("x.json, line 1"), std::string::npos) << imported.err;
    ASSERT_EQ(run(there + with + "export " + (folder_ / "out").string()).code, 0);
    ASSERT_EQ(run(there + with + "backup " + (folder_ / "copy").string()).code, 0);
    // On a machine without it, everything goes on, and the job can be planned.
    const std::string here = "XDG_DATA_HOME=" + (folder_ / "nothing").string() + " ";
    EXPECT_EQ(run(here + with + "verify").code, 0);
    EXPECT_NE(run(here + program() + " plan Dunlin@" + book.string()).code, 3);
    EXPECT_EQ(run(here + with + "export " + (folder_ / "out2").string()).code, 0);
    EXPECT_EQ(run(here + with + "restore " + (folder_ / "copy").string()).code, 0);
    const fs::path next = folder_ / "next.book";
    for (const char* from : {"out", "copy", "own.book"}) {
        fs::remove(next);
        const Ran ran = run(here + program() + " shop " + next.string() + " import " +
                            (folder_ / from).string());
        EXPECT_EQ(ran.code, 0) << from << ran.err;
        EXPECT_NE(run(here + program() + " plan Dunlin@" + next.string()).code, 3) << from;
    }
    const fs::path alone = fs::directory_iterator(folder_ / "out/jobs")->path();
    EXPECT_NE(run(here + program() + " plan " + alone.string()).code, 3);

    // A book that came about without the part in it: kept as it is, and said.
    const fs::path bare = folder_ / "bare.book";
    fs::copy_file(book, bare);
    {
        SQLite::Database db(bare.string(), SQLite::OPEN_READWRITE);
        db.exec("DELETE FROM attachment WHERE type = 'part'");
    }
    const auto saved = rescue(bare, folder_ / "bare2.book"); // its counts are right again
    ASSERT_TRUE(saved) << saved.error().text();
    const std::string lacks = here + program() + " shop " + (folder_ / "bare2.book").string() + " ";
    const Ran verified = run(lacks + "verify");
    EXPECT_EQ(verified.code, 0) << verified.err;
    EXPECT_NE(verified.err.find("can not be judged"), std::string::npos) << verified.err;
    EXPECT_EQ(run(lacks + "export " + (folder_ / "out3").string()).code, 0);
    fs::remove(next);
    const Ran taken =
        run(here + program() + " shop " + next.string() + " import " + (folder_ / "out3").string());
    EXPECT_EQ(taken.code, 0) << taken.err;
    EXPECT_NE(taken.err.find("cell.own"), std::string::npos) << taken.err;
    EXPECT_EQ(read_file(folder_ / "out3/history" /
                        fs::directory_iterator(folder_ / "out3/history")->path().filename())
                  .find("x.json"),
              std::string::npos);
    // And where the part is, it is judged again.
    EXPECT_NE(run(there + program() + " plan Dunlin@" + next.string()).code, 3);
}

TEST_F(Inputs, NamesThatCanNotBeSeen) {
    for (const std::string& name : {std::string("He\0ron", 6), std::string("He\x1bron"),
                                    std::string("He\xc2\x9bron"), std::string("\x7f")}) {
        Json job = files::job_json(files::bare(demo("heron")));
        job["name"] = name;
        write_file(folder_ / "named.json", job.dump());
        EXPECT_EQ(bounded(shop("import " + (folder_ / "named.json").string())).code, 3) << name;
    }
    // Line ends are shown as what they are, so that no two names look alike.
    Json two = files::job_json(files::bare(demo("heron")));
    const fs::path names = folder_ / "names.book";
    for (const char* name : {"Heron", "Heron\n", "Her\ton"}) {
        two["name"] = name;
        write_file(folder_ / "named.json", two.dump());
        EXPECT_EQ(
            bounded("shop " + names.string() + " import " + (folder_ / "named.json").string()).code,
            0);
    }
    const Ran listed = bounded("shop " + names.string() + " list");
    EXPECT_EQ(std::count(listed.out.begin(), listed.out.end(), '\n'), 3);
    EXPECT_NE(listed.out.find("Heron\\n "), std::string::npos) << listed.out;
    EXPECT_NE(listed.out.find("Her\\ton "), std::string::npos) << listed.out;
    // An @ is a sign like any other, in the name and in the path.
    Json job = files::job_json(files::bare(demo("dunlin")));
    job["name"] = "Dunlin @ the bench";
    write_file(folder_ / "at.json", job.dump());
    const fs::path book = folder_ / "shop@home.book";
    ASSERT_EQ(bounded("shop " + book.string() + " import " + (folder_ / "at.json").string()).code,
              0);
    const Ran ran = bounded("plan 'Dunlin @ the bench@" + book.string() + "'");
    EXPECT_NE(ran.code, 3) << ran.err;
}

TEST_F(Inputs, MutatedFilesOfEveryKind) {
    std::vector<fs::path> seeds;
    for (const char* place : {"data/demo", "fuzz/corpus"})
        for (const auto& e : fs::recursive_directory_iterator(source_dir() / place))
            if (e.is_regular_file()) seeds.push_back(e.path());
    {
        auto book = Book::open(folder_ / "shop.book", Access::read_only);
        ASSERT_TRUE(export_folder(*book, folder_ / "out", parts()));
    }
    std::sort(seeds.begin(), seeds.end());
    ASSERT_GT(seeds.size(), 10u);
    std::mt19937 random(101);
    Book book = fresh(folder_ / "target.book");
    int taken = 0, refusals = 0;
    for (int n = 0; n < times(300); ++n) {
        std::string bytes = read_file(seeds[static_cast<std::size_t>(n) % seeds.size()]);
        for (std::size_t k = n < static_cast<int>(seeds.size()) ? 0 : 1 + random() % 4;
             k > 0 && !bytes.empty(); --k) {
            const std::size_t at = random() % bytes.size();
            switch (random() % 4) {
            case 0:
                bytes[at] = static_cast<char>(random());
                break;
            case 1:
                bytes.erase(at, 1 + random() % 20);
                break;
            case 2:
                bytes.insert(at, bytes.substr(random() % bytes.size(), 1 + random() % 50));
                break;
            default:
                bytes.insert(at, "\"\\u0000{[1e99"[random() % 12], 1);
            }
        }
        write_file(folder_ / "mutated", bytes);
        const auto before = book.last_change();
        const auto passed = import_into(book, folder_ / "mutated", parts());
        taken += passed.has_value();
        refusals += !passed.has_value();
        if (!passed) {
            ASSERT_FALSE(passed.error().what.empty());
            ASSERT_FALSE(passed.error().mend.empty()) << passed.error().text();
            ASSERT_EQ(*book.last_change(), *before);
        }
    }
    EXPECT_TRUE(book.verify());
    fmt::print("{} mutated files: {} refused, {} taken in\n", taken + refusals, refusals, taken);
}

TEST_F(Inputs, BooksAndFoldersThatMayNotBeRead) {
    if (::geteuid() == 0) {
        // To root everything is readable: another user tries.
        const fs::path place = folder_ / "p";
        fs::create_directory(place);
        ::chmod(folder_.path().c_str(), 0755);
        ::chmod(place.c_str(), 0777);
        fs::copy_file(folder_ / "shop.book", place / "b.book");
        fs::copy_file(folder_ / "shop.book", place / "copy.book");
        ::chmod((place / "b.book").c_str(), 0);
        ::chmod((place / "copy.book").c_str(), 0644);
        const auto as_nobody = [&](const std::string& command) {
            const pid_t child = ::fork();
            if (child == 0) {
                if (::setgid(65534) != 0 || ::setuid(65534) != 0) ::_exit(77);
                const Ran ran = run(command);
                ::_exit(ran.code);
            }
            return wait_for(child);
        };
        const std::string shop = program() + " shop " + (place / "b.book").string() + " ";
        const int code = as_nobody(shop + "restore " + (place / "copy.book").string());
        if (code == 77 || code == 127 || code == 126) GTEST_SKIP() << "no other user here";
        EXPECT_EQ(code, 3);
        EXPECT_TRUE(fs::exists(place / "b.book")) << "it was not set aside";
        EXPECT_FALSE(fs::exists(place / "b.book.damaged-1"));
    }
    // A copy in a folder that may only be read is read, and nothing is written beside it.
    const fs::path shelf = folder_ / "shelf";
    fs::create_directory(shelf);
    fs::copy_file(folder_ / "shop.book", shelf / "copy.book");
    make_old_book(shelf / "old.book", "Heron", {files::job_text(files::bare(demo("heron")))});
    fs::remove(shelf / "old.book-wal");
    fs::remove(shelf / "old.book-shm");
    const std::string old = read_file(shelf / "old.book"), copy = read_file(shelf / "copy.book");
    ::chmod(shelf.c_str(), 0555);
    for (const char* name : {"copy.book", "old.book"})
        for (const char* action : {"list", "verify", "find note", "export OUT"}) {
            std::string command = std::string("shop ") + (shelf / name).string() + " " + action;
            if (const auto at = command.find("OUT"); at != std::string::npos)
                command.replace(at, 3, (folder_ / (std::string("of-") + name)).string());
            const Ran ran = bounded(command);
            EXPECT_EQ(ran.code, 0) << command << ran.err;
            EXPECT_EQ(std::distance(fs::directory_iterator(shelf), fs::directory_iterator{}), 2);
        }
    EXPECT_EQ(read_file(shelf / "old.book"), old);
    EXPECT_EQ(read_file(shelf / "copy.book"), copy);
    ::chmod(shelf.c_str(), 0755);
}

TEST_F(Inputs, JournalsThatBelongToAnotherFile) {
    // A write-ahead log that an earlier file of that name left.
    const fs::path target = folder_ / "copy.book";
    make_old_book(folder_ / "old", "Heron", {files::job_text(files::bare(demo("heron")))});
    {
        SQLite::Database writer((folder_ / "old").string(), SQLite::OPEN_READWRITE);
        writer.exec("UPDATE job SET name = 'Egret'");
        fs::copy_file((folder_ / "old").string() + "-wal", target.string() + "-wal");
    }
    write_file(target.string() + "-journal", std::string(600, 'j'));
    ASSERT_EQ(bounded(shop("backup " + target.string())).code, 0);
    auto copy = Book::open(target, Access::read_only);
    ASSERT_TRUE(copy) << copy.error().text();
    EXPECT_TRUE(copy->verify());
    EXPECT_EQ(everything(*copy), before_);
    EXPECT_TRUE(fs::exists(target.string() + "-wal.set-aside-1")) << "nothing is thrown away";
}

} // namespace
} // namespace conductus::shop
