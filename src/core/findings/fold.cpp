// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/findings/fold.h"

#include <algorithm>
#include <string_view>

#include "core/findings/rules.h"

namespace conductus::findings {
namespace {

/// What a cause explains: one id, or everything of a family ("config.") or of solved figures.
struct Cause {
    std::string_view root;
    std::string_view follows; ///< an id, a family that ends in a dot, or "figures"
    bool same_thing = false;  ///< only where both name one thing
};

constexpr std::string_view of_figures = "figures";
/// In the order in which causes are looked for: the first that explains a finding takes it.
constexpr Cause causes[] = {
    {"cell.shorted", of_figures},
    {"cell.shorted", "supply.not-solved"},
    {"cell.shorted", "harness."},
    {"cell.shorted", "line.no-data"},
    {"cell.shorted", "config."},
    {"cell.shorted", "cell.reversed"},
    {"cell.reversed", of_figures},
    {"cell.reversed", "supply.not-solved"},
    {"cell.reversed", "supply.reversed"},
    {"cell.reversed", "return.wrong-ground"},
    {"cell.reversed", "harness."},
    {"cell.reversed", "line.no-data"},
    {"cell.reversed", "supply.no-kill"},
    {"cell.reversed", "kill."},
    {"cell.reversed", "charge.behind-kill"},
    {"supply.reversed", of_figures},
    {"supply.reversed", "supply.not-solved"},
    {"supply.reversed", "pad.on-supply"},
    {"supply.reversed", "return.wrong-ground"},
    {"supply.reversed", "harness."},
    {"supply.reversed", "line.no-data"},
    {"supply.reversed", "supply.no-kill"},
    {"supply.reversed", "kill."},
    {"supply.reversed", "charge.behind-kill"},
    {"pad.on-supply", of_figures},
    {"pad.on-supply", "supply.not-solved"},
    {"pad.on-supply", "return.wrong-ground"},
    {"pad.on-supply", "harness."},
    {"pad.on-supply", "line.no-data"},
    {"harness.button-on-supply", of_figures},
    {"harness.button-on-supply", "config.", true},
    {"harness.button-on-supply", "harness.missing"},
    {"harness.button-on-supply", "harness.wrong-role"},
    {"harness.button-on-supply", "harness.button-both", true},
    {"speaker.on-supply", of_figures},
    {"speaker.on-supply", "harness."},
    {"speaker.on-ground", "harness."},
    {"speaker.one-pole", "harness."},
    {"return.wrong-ground", of_figures},
    {"return.wrong-ground", "supply.not-solved"},
    {"return.wrong-ground", "harness."},
    {"return.wrong-ground", "line.no-data", true},
    {"supply.not-solved", of_figures},
    {"supply.not-solved", "harness.missing"},
    {"supply.not-solved", "line.no-data"},
    {"supply.no-kill", "supply.drains-asleep"},
    {"supply.no-kill", "harness.leads-nowhere", true},
    {"return.wrong-ground", "light.always-on", true},
    {"return.wrong-ground", "kill.", true},
    {"kill.leaves-on", "supply.drains-asleep"},
    {"resistor.in-supply", of_figures},
    {"resistor.in-supply", "contact.poor", true},
    {"contact.poor", "sound.crackle-early"},
    {"contact.poor", "blade.tip-dim"},
    {"contact.poor", "blade.dims-early"},
    {"contact.poor", "data.level-low"},
    {"contact.poor", "brief.needs-swap"},
    {"contact.poor", "agreement.broken"},
    {"contact.poor", "regulator.overloaded"},
    {"contact.poor", "pins.over-current", true},
    {"contact.poor", "kill.over-current", true},
    {"contact.poor", "sound.clips"},
    {"sound.crackle-early", "sound.clips"},
    {"cell.over-continuous", "bay.over-current", true},
    {"cell.over-continuous", "cell.hot"},
    {"cell.over-continuous", "sound.crackle-early"},
    {"cell.protection-trips", "cell.over-continuous"},
    {"regulator.over-limit", "part.too-hot", true},
    {"regulator.overloaded", "part.too-hot", true},
    {"pins.over-current", "part.too-hot", true},
    {"kill.over-current", "part.too-hot", true},
    {"fuse.over-current", "part.too-hot", true},
    {"part.too-hot", "sound.crackle-early"},
    {"fuse.over-current", "sound.crackle-early"},
    {"cell.protection-trips", "sound.crackle-early"},
    {"regulator.over-limit", "regulator.overloaded", true},
    {"led.over-current", "led.die-too-hot", true},
    {"led.over-current", "resistor.over-power"},
    {"led.over-current", "regulator.", true},
    {"line.mixed-pixels", "look.shows-nothing", true},
    {"pad.flash-shared", "string.segments-swapped", true},
    {"harness.data-joined", "line."},
    {"harness.data-joined", "config."},
    {"harness.data-joined", "light.mirrors"},
    {"harness.button-both", "button.shared-pad", true},
    {"harness.button-both", "config.", true},
    {"harness.button-both", "harness.missing", true},
    {"button.shared-pad", "config."},
    {"harness.leads-nowhere", "harness.missing"},
    {"harness.wrong-role", "harness.missing"},
    {"harness.wrong-role", "line.no-data"},
    {"harness.wrong-role", "config."},
    {"harness.loop", "harness.missing"},
    {"harness.loop", "line.no-data"},
    {"harness.loop", "config."},
    {"harness.missing", "line.no-data", true},
    {"harness.missing", "config."},
    {"line.no-data", "harness.leads-nowhere"},
    {"line.no-data", "harness.missing"},
    {"line.no-data", "config.line-bare"},
    {"resistor.in-sound", "harness.missing"},
    {"wire.too-thin", "blade.dims-early"},
    {"wire.too-thin", "sound.crackle-early"},
    {"wire.too-thin", "agreement.broken"},
    {"cell.protection-trips", "blade.dims-early"},
    {"pins.over-current", "blade.dims-early"},
    {"line.no-data", "config.line-not-set"},
    {"line.no-data", "line.programmed-differs"},
    {"line.too-many-pixels", "line.programmed-differs"},
    {"strip.count-mismatch", "line.programmed-differs"},
    {"config.use-twice", "config.button-mode"},
    {"charge.cells", "charge."},
    {"charge.no-port", "charge."},
    {"charge.no-balance", "pack.lead-unused"},
    {"fit.body-in-body", "fit.body-does-not-fit", true},
    {"fit.body-in-body", "assembly.no-order"},
    {"fit.body-does-not-fit", "fit.carrier-binds"},
    {"fit.body-does-not-fit", "fit.wires-crowded", true},
    {"fit.body-does-not-fit", "assembly.no-order"},
    {"fit.body-does-not-fit", "access."},
    {"fit.body-does-not-fit", "socket.connector-in", true},
    {"fit.no-way-in", "access."},
    {"fit.no-way-in", "assembly.no-order"},
    {"fit.carrier-binds", "access."},
    {"fit.carrier-binds", "assembly.no-order"},
    {"socket.connector-in", "screw.on-connector", true},
    {"socket.connector-in", "socket.does-not-seat"},
    {"socket.connector-in", "socket.too-weak"},
    {"screw.on-connector", "screw.confused"},
    {"socket.does-not-seat", "socket.too-weak", true},
    {"socket.does-not-seat", "screw.on-nothing"},
    {"survey.off-hilt", "opening.elsewhere", true},
    {"survey.off-hilt", "opening.over-other", true},
    {"survey.off-hilt", "screw.on-nothing", true},
    {"survey.off-hilt", "opening.missing"},
    {"survey.names-nothing", "opening.missing"},
    {"opening.wrong-part", "opening.missing"},
    {"brief.blade-differs", "agreement.broken"},
    {"sound.crackle-early", "brief.needs-swap"},
    {"sound.crackle-early", "agreement.broken"},
    {"sound.crackle-early", "blade.dims-early"},
    {"blade.tip-dim", "blade.dims-early"},
    // What starves shows another colour than it was mixed for.
    {"regulator.overloaded", "look.too-near"},
    {"regulator.overloaded", "look.name-misleads"},
    {"sound.crackle-early", "look.name-misleads"},
    {"sound.crackle-early", "look.too-near"},
    {"blade.tip-dim", "look.too-near"},
    {"blade.tip-dim", "look.name-misleads"},
    {"cell.protection-trips", "look.name-misleads"},
    {"cell.protection-trips", "look.too-near"},
};

bool in_family(std::string_view id, std::string_view family) {
    return family.ends_with('.') ? id.starts_with(family) : id == family;
}

bool name_one_thing(const Finding& a, const Finding& b) {
    return std::any_of(a.where.begin(), a.where.end(), [&](const std::string& ref) {
        return std::find(b.where.begin(), b.where.end(), ref) != b.where.end();
    });
}

bool explains(const Cause& cause, const Finding& root, const Finding& other) {
    if (root.id != cause.root || root.id == other.id) return false;
    // A note explains nothing that stops a build.
    if (other.severity < root.severity && root.severity == Severity::note) return false;
    if (cause.follows == of_figures) {
        const Rule* r = rule(other.id);
        if (!r || r->basis != Basis::figures) return false;
    } else if (!in_family(other.id, cause.follows)) {
        return false;
    }
    return !cause.same_thing || name_one_thing(root, other);
}

} // namespace

void fold(std::vector<Finding>& findings) {
    constexpr std::size_t none = static_cast<std::size_t>(-1);
    std::vector<std::size_t> under(findings.size(), none);
    for (const Cause& cause : causes)
        for (std::size_t i = 0; i < findings.size(); ++i) {
            if (under[i] != none) continue;
            for (std::size_t root = 0; root < findings.size(); ++root) {
                if (root == i || !explains(cause, findings[root], findings[i])) continue;
                // Never in a ring: to the top of what explains the root.
                std::size_t top = root;
                while (under[top] != none)
                    top = under[top];
                if (top == i) continue;
                under[i] = top;
                break;
            }
        }
    std::vector<Finding> kept;
    std::vector<std::size_t> at(findings.size(), none);
    for (std::size_t i = 0; i < findings.size(); ++i) {
        if (under[i] != none) continue;
        at[i] = kept.size();
        kept.push_back(std::move(findings[i]));
    }
    for (std::size_t i = 0; i < findings.size(); ++i) {
        if (under[i] == none) continue;
        std::size_t top = under[i];
        while (under[top] != none)
            top = under[top];
        kept[at[top]].follows.push_back(std::move(findings[i]));
    }
    findings = std::move(kept);
}

} // namespace conductus::findings
