// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <QApplication>
#include <QDir>
#include <QFileInfo>
#include <QStandardPaths>
#include <algorithm>
#include <cstdio>
#include <cstdlib>

#include "app/drawing/drawings.h"
#include "app/drawing/owner_drawing.h"
#include "app/session/asking.h"
#include "app/session/log.h"
#include "app/session/words.h"
#include "app/shell/at_the_end.h"
#include "app/shell/main_window.h"
#include "core/base/parse.h"
#include "core/base/utf8.h"
#include "core/plan/analyse.h"
#include "files/catalogue_json.h"
#include "files/disk.h"
#include "shop/backup.h"
#include "shop/book.h"

namespace {

using namespace conductus;

struct Options {
    std::string book;
    std::string job, drawing = "section", overlay = "body", look, effect, figure, variant, part,
                     out, at;
    int width = 0, height = 0;
    std::optional<int> text_percent;
    bool night = false, list = false;
};

int refuse(const Problem& problem) {
    std::fprintf(stderr, "conductus: %s\n", problem.text().c_str());
    return 3;
}

struct Ground {
    std::filesystem::path data;
    app::CataloguePtr parts;
    std::vector<Problem> skipped; ///< files of own parts that can not be used
};

Result<Ground> ground() {
    auto data = files::find_data(files::this_executable());
    if (!data) return tl::unexpected(data.error());
    auto parts = files::read_catalogues(*data);
    if (!parts) return tl::unexpected(parts.error());
    return Ground{*data, std::make_shared<const catalogue::Catalogue>(std::move(parts->parts)),
                  std::move(parts->skipped)};
}

int picture(const Options& options, const Ground& g) {
    auto named = shop::job_named(options.job, *g.parts);
    if (!named) return refuse(named.error());
    auto plan = std::make_shared<const plan::Plan>(
        plan::analyse(std::make_shared<const job::Job>(std::move(named->job)), named->parts));
    if (!options.look.empty() && !plan->look(options.look))
        return refuse({shown(options.job),
                       "there is no look named '" + shown(options.look, 60) + "'",
                       "Name one of the job's looks"});
    const app::Inks inks = options.night ? app::Inks::night_variant() : app::Inks::day();
    const app::DrawingEntry& entry = *app::drawing_named(options.drawing);
    const auto drawing = entry.make(
        {plan, app::overlay_named(options.overlay)->overlay, options.look, options.effect,
         options.figure, options.variant, options.part, options.at,
         [&](const plan::Question& question) { return app::answer_here(question, *plan); }});
    if (!drawing) return refuse(drawing.error());
    constexpr double lettering = 13;
    QSize size = (*drawing)->size(lettering).toSize() + QSize(20, 12);
    if (options.width > 0) size.setWidth(options.width);
    if (options.height > 0) size.setHeight(options.height);
    const auto ok = app::write_picture(
        [&](QPainter& p, const QRectF& frame) {
            (void)(*drawing)->paint({p, frame, lettering, inks, frame});
        },
        QCoreApplication::translate("Drawing", entry.title), QString::fromStdString(options.out),
        size, inks);
    return ok ? 0 : refuse(ok.error());
}

/// What `picture` can draw: an id a line, its title, and the options that say something of it.
int list_drawings() {
    for (const app::DrawingEntry& drawing : app::drawings()) {
        std::printf("%-12s %s", std::string(drawing.id).c_str(), drawing.title);
        for (const std::string_view option : drawing.takes)
            std::printf("  %s", std::string(option).c_str());
        std::printf("\n");
    }
    return 0;
}

/// The ids of a registry, for an option that takes one of them.
template <class Entries>
std::vector<std::string> ids_of(const Entries& entries) {
    std::vector<std::string> ids;
    for (const auto& entry : entries)
        ids.emplace_back(entry.id);
    return ids;
}

int page(const Options& options, const Ground& g) {
    auto named = shop::job_named(options.job, *g.parts);
    if (!named) return refuse(named.error());
    const auto plan = std::make_shared<const plan::Plan>(plan::analyse_figures(
        std::make_shared<const job::Job>(std::move(named->job)), named->parts));
    const auto ok = app::write_owner_page(plan, QString::fromStdString(options.out));
    return ok ? 0 : refuse(ok.error());
}

/// The folder of own parts is read once: what the book has never had is taken into it, and from
/// then on the book says what is on the shelf. Where it can not be written, the folder stands.
app::CataloguePtr with_folder_taken_in(const Ground& g, const std::filesystem::path& path) {
    std::error_code error;
    auto shipped = std::make_shared<const catalogue::Catalogue>(g.parts->shipped());
    if (shipped->ids().size() == g.parts->ids().size()) return g.parts;
    if (!std::filesystem::exists(path, error)) return g.parts;
    auto book = shop::Book::open(path, shop::Access::read_write);
    if (!book) return g.parts;
    const auto taken = book->take_in_parts(*g.parts);
    if (!taken) return g.parts;
    for (const std::string& id : *taken)
        app::log_line("the own part " + id + " was taken into the book");
    return shipped;
}

int window(const Options& options, const Ground& g, QApplication& app) {
    std::filesystem::path book = options.book;
    if (book.empty())
        book = app::path_of(QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation) +
                            "/shop.book");
    // The first start finds a shop to look around in; a book that has gone and left its copies is
    // no first start.
    std::error_code error;
    const bool gone = !std::filesystem::exists(book, error) && !shop::backups_of(book).empty();
    const auto made =
        gone ? Result<bool>(false) : shop::make_demo_book(book, g.data / "demo", *g.parts);
    app::open_log(app::log_file());
    app::log_line("conductus " + QApplication::applicationVersion().toStdString() +
                  " begins with " + files::path_text(book));
    const app::CataloguePtr parts = with_folder_taken_in(g, book);
    app::MainWindow main(parts, book, app::settings_file());
    app::keep_all_at_the_end(app, main);
    // The demo shop has a name, too.
    if (made && *made && main.settings().shop().isEmpty())
        if (const auto name = files::read_text(g.data / "demo-shop.txt"))
            main.settings().set_shop(QString::fromStdString(*name));
    main.settings().begin_with(options.text_percent, options.night);
    main.open_book();
    if (!made) std::fprintf(stderr, "conductus: %s\n", made.error().text().c_str());
    for (const Problem& p : g.skipped)
        std::fprintf(stderr, "conductus: %s\n", p.text().c_str());
    main.say_first(g.skipped);
    main.show();
    const int code = QApplication::exec();
    app::log_line("conductus ends");
    return code;
}

/// Options that say nothing of the drawing that is asked for are not passed over in silence.
std::string idle_option(const CLI::App& picture, const std::string& drawing) {
    const auto* entry = app::drawing_named(drawing);
    for (const char* option :
         {"--at", "--overlay", "--look", "--effect", "--figure", "--variant", "--part"})
        if (picture.count(option) > 0 &&
            std::find(entry->takes.begin(), entry->takes.end(), option) == entry->takes.end())
            return option;
    return {};
}

} // namespace

int main(int argc, char** argv) {
    Options options;
    CLI::App cli("Plans the electronics of a saber hilt.", "conductus");
    cli.set_version_flag("--version", "conductus 0.1.0");
    cli.add_option("--book", options.book,
                   "shop book to open; made with the demo shop if it is not there");
    cli.add_option("--text-size", options.text_percent, "percent")->check(CLI::Range(80, 200));
    cli.add_flag("--night", options.night, "dark paper");
    auto* pic =
        cli.add_subcommand("picture", "write a drawing of a job to a file, without a display too");
    pic->add_option("JOB", options.job, "a job file, or NAME@BOOK");
    pic->add_flag("--list", options.list, "say which drawings there are, and nothing else");
    pic->add_option("--drawing", options.drawing, "one of the drawings of --list")
        ->check(CLI::IsMember(ids_of(app::drawings())));
    pic->add_option(
        "--at", options.at,
        "where or when: 152 or 6 in from the pommel end for the slice, 0.4 s of the film, "
        "30 min lit of the discharge");
    pic->add_option("--overlay", options.overlay, "what the section shows over the bodies")
        ->check(CLI::IsMember(ids_of(app::overlays())));
    pic->add_option("--look", options.look, "name of a look; that of the use if not given");
    pic->add_option("--effect", options.effect, "name of an effect, to be filmed over the look");
    pic->add_option("--figure", options.figure, "figure to explain; the first crackle if not given")
        ->check(CLI::IsMember(plan::figures_to_ask()));
    pic->add_option("--variant", options.variant, "name of a way of building that is kept");
    pic->add_option("--part", options.part, "id of a part of the catalogue");
    pic->add_option("--width", options.width, "pixels")->check(CLI::Range(200, 8000));
    pic->add_option("--height", options.height, "pixels")->check(CLI::Range(120, 8000));
    pic->add_flag("--night", options.night, "dark paper");
    pic->add_option("-o", options.out, "file: .svg, .png or .pdf");
    auto* owner = cli.add_subcommand("page", "write the page for the owner to agree");
    owner->add_option("JOB", options.job, "a job file, or NAME@BOOK")->required();
    owner->add_option("-o", options.out, "file: .pdf or .txt")->required();
    try {
        cli.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        return cli.exit(e) == 0 ? 0 : 2;
    }
    if (*pic && options.list) return list_drawings();
    if (*pic && (options.job.empty() || options.out.empty())) {
        std::fprintf(stderr,
                     "conductus: %s is missing: picture JOB --drawing ID -o FILE, or --list\n",
                     options.job.empty() ? "the job" : "-o FILE");
        return 2;
    }
    if (const std::string idle = *pic ? idle_option(*pic, options.drawing) : std::string();
        !idle.empty()) {
        std::fprintf(stderr, "conductus: %s says nothing of the drawing '%s': leave it out\n",
                     idle.c_str(), options.drawing.c_str());
        return 2;
    }
    if (first_not_utf8(options.out) != std::string::npos)
        return refuse({shown(options.out), "this name of a file is not UTF-8",
                       "Choose a name of letters that are"});
    // A picture needs no display, and the toolkit should not look for one.
    if (*pic || *owner) qputenv("QT_QPA_PLATFORM", "offscreen");
    const auto g = ground();
    if (!g) return refuse(g.error());
    const QString fonts = QString::fromStdString((g->data / "fonts").string());
    app::prepare_fonts(fonts);
    int no_arguments = 1;
    QApplication app(no_arguments, argv);
    QApplication::setApplicationName("conductus");
    QApplication::setApplicationVersion("0.1.0");
    app::register_fonts(fonts);
    if (*pic) return picture(options, *g);
    return *owner ? page(options, *g) : window(options, *g, app);
}
