// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/part_words.h"

#include <algorithm>
#include <array>
#include <utility>

namespace conductus::job {

std::string field_name(std::string_view key) {
    constexpr std::array<std::pair<std::string_view, std::string_view>, 87> table{{
        {"id", "id"},
        {"price", "typical price, EUR"},
        {"thermal_K_per_W", "warms its surroundings by"},
        {"from_mm", "begins behind the body's start by"},
        {"up_mm", "its middle lies above the part's by"},
        {"side_mm", "its middle lies to the side by"},
        {"continuous_A", "continuous current"},
        {"resistance_Ohm", "resistance"},
        {"series", "cells or LEDs one behind the other"},
        {"parallel", "rows side by side"},
        {"charge_A", "may be charged with"},
        {"trip_A", "trips at"},
        {"trip_after_s", "trips after"},
        {"cut_off_V", "cuts off at"},
        {"adds_mm", "lengthens the cell by"},
        {"takes", "size that goes in"},
        {"bay", "size of the bay it fills"},
        {"contacts_Ohm", "contacts, both ends together"},
        {"in_hilt", "stays in the hilt"},
        {"cells", "cells one behind the other"},
        {"balances", "looks after each cell"},
        {"gives_up_s", "safety timer"},
        {"active_A", "lit, without sound"},
        {"idle_A", "idle"},
        {"sleep_A", "asleep"},
        {"pad_resistance_Ohm", "transistor of a pad"},
        {"pad_rating_A", "a pad carries"},
        {"total_rating_A", "all pads together carry"},
        {"max_pixels", "pixels on one data line"},
        {"clean_min_V", "sound is clean from"},
        {"boosted_rail", "its sound rail is boosted"},
        {"headroom_V", "amplifier stays below its rail by"},
        {"amplifier_efficiency", "efficiency of its amplifier"},
        {"reset_V", "resets at"},
        {"most_V", "supply it stands"},
        {"logic_V", "high level of its data lines"},
        {"max_lights", "lights of their own"},
        {"capacitor_F", "capacitor across its supply"},
        {"card_edge", "its card is drawn at"},
        {"colour_order", "takes its colours"},
        {"port_edge", "its data port is plugged at"},
        {"contact_Ohm", "contact"},
        {"forward_V", "forward voltage"},
        {"stated_A", "stated current"},
        {"most_A", "current it stands"},
        {"slope_V", "slope of its exponential"},
        {"series_Ohm", "resistance behind it"},
        {"luminous", "light (plain 5050: 1)"},
        {"built_in_Ohm", "resistor inside, of each die"},
        {"junction_K_per_W", "from a die to its back"},
        {"hottest_die_degC", "hottest a die may be"},
        {"light_share", "power that leaves as light"},
        {"usual_Ohm", "value where none is chosen"},
        {"full_A", "full current"},
        {"on_V", "lights from"},
        {"knee_V", "knee"},
        {"quiet_A", "quiet current"},
        {"segment_Ohm", "copper from pixel to pixel, both rails"},
        {"rail_Ohm_per_m", "copper of each rail"},
        {"charge", "at a charge of"},
        {"times", "times its resistance"},
        {"quick_share", "quick lag, share of its resistance"},
        {"slow_share", "slow lag, share of its resistance"},
        {"quick_s", "time constant of the quick lag"},
        {"slow_s", "time constant of the slow lag"},
        {"balancing", "its cells are kept alike by"},
        {"pixel_channels", "colours of a pixel that it drives"},
        {"order", "takes its colours"},
        {"most_buttons", "buttons that it tells apart"},
        {"most_presets", "presets"},
        {"name_length", "letters of a name on its card"},
        {"name_case", "names on its card are in"},
        {"name_letters", "letters of a name beside a to z and digits"},
        {"fonts_in", "folder of fonts"},
        {"tracks_in", "folder of tracks"},
        {"begins", "its files begin with"},
        {"sound_rate_Hz", "samples a second of a sound"},
        {"sound_bits", "bits of a sound"},
        {"sound_channels", "channels of a sound"},
        {"senses_blade", "feels whether a blade is in"},
        {"plug_mm", "takes a plug of"},
        {"opens_mm", "opens with the plug in by"},
        {"configures", "is for the configuration"},
        {"segment_pins", "contacts of segments"},
        {"flash_pin", "contact of a flash row"},
        {"keyed", "goes in one way round"},
        {"insertion", "is put in like this"},
    }};
    for (const auto& [k, words] : table)
        if (k == key) return std::string(words);
    std::string_view stem = key;
    for (const std::string_view end :
         {"_per_m", "_K_per_W", "_degC", "_Ohm", "_mAh", "_mm", "_s", "_A", "_V", "_W", "_F", "_g"})
        if (stem.ends_with(end)) {
            stem.remove_suffix(end.size());
            break;
        }
    std::string words(stem);
    std::replace(words.begin(), words.end(), '_', ' ');
    return words;
}

std::string_view one_of(std::string_view list) {
    constexpr std::array<std::pair<std::string_view, std::string_view>, 7> table{
        {{"sounds", "sound"},
         {"terminals", "terminal"},
         {"colour_orders", "colour order"},
         {"dies", "die"},
         {"channels", "channel"},
         {"pieces", "piece"},
         {"by_charge", "point by charge"}}};
    for (const auto& [many, one] : table)
        if (list.ends_with(many)) return one;
    return list;
}

} // namespace conductus::job
