// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/plan_in_book.h"

#include "core/plan/analyse.h"
#include "shop/book.h"

namespace conductus::app {

Result<PlanPtr> plan_in_book(const std::filesystem::path& book, shop::JobId id,
                             const CataloguePtr& parts) {
    auto opened = shop::Book::open(book, shop::Access::read_only);
    if (!opened) return tl::unexpected(opened.error());
    auto job = opened->load(id, *parts);
    if (!job) return tl::unexpected(job.error());
    return std::make_shared<const plan::Plan>(
        plan::analyse_figures(std::make_shared<const job::Job>(std::move(job->job)), job->parts));
}

} // namespace conductus::app
