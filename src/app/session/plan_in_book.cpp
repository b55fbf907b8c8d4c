// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/plan_in_book.h"

#include "core/plan/analyse.h"
#include "core/plan/sets.h"
#include "shop/book.h"

namespace conductus::app {

Result<PlanPtr> plan_in_book(const std::filesystem::path& book, shop::JobId id,
                             const CataloguePtr& parts) {
    auto opened = shop::Book::open(book, shop::Access::read_only);
    if (!opened) return tl::unexpected(opened.error());
    auto job = opened->load(id, *parts);
    if (!job) return tl::unexpected(job.error());
    auto plan = std::make_shared<plan::Plan>(
        plan::analyse_figures(std::make_shared<const job::Job>(std::move(job->job)), job->parts));
    plan::judge_worst_set(*plan, one_by_one); // its findings count on the card as well
    return PlanPtr(std::move(plan));
}

} // namespace conductus::app
