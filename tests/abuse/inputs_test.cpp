// SPDX-License-Identifier: GPL-3.0-or-later
// Files that come in: hostile, broken, endless, in other encodings. Each ends by itself, with a
// message, and changes nothing.
#include <sys/stat.h>

#include "abuse/imports.h"

namespace conductus::shop {
namespace {

using namespace test;
using files::Json;

class Inputs : public Imports {};

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

} // namespace
} // namespace conductus::shop
