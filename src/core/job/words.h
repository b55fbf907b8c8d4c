// SPDX-License-Identifier: GPL-3.0-or-later
// The words that stand for the enumerations in files, on the command line and in findings.
#pragma once

#include <array>
#include <optional>
#include <string_view>
#include <utility>

#include "core/job/job.h"

namespace conductus::job {

template <class E>
struct Words;

template <class E, std::size_t N>
using WordTable = std::array<std::pair<E, std::string_view>, N>;

template <>
struct Words<Kind> {
    static constexpr WordTable<Kind, 3> table{
        {{Kind::conversion, "conversion"}, {Kind::repair, "repair"}, {Kind::upgrade, "upgrade"}}};
};
template <>
struct Words<BladeForm> {
    static constexpr WordTable<BladeForm, 2> table{
        {{BladeForm::blade, "blade"}, {BladeForm::plug, "plug"}}};
};
template <>
struct Words<PixelCount> {
    static constexpr WordTable<PixelCount, 2> table{
        {{PixelCount::counted, "counted"}, {PixelCount::assumed, "assumed"}}};
};
template <>
struct Words<Gravity> {
    static constexpr WordTable<Gravity, 3> table{
        {{Gravity::stop, "stop"}, {Gravity::warn, "warn"}, {Gravity::note, "note"}}};
};
template <>
struct Words<Answer> {
    static constexpr WordTable<Answer, 3> table{{{Answer::accepted, "accepted"},
                                                 {Answer::acknowledged, "acknowledged"},
                                                 {Answer::agreed, "agreed"}}};
};
template <>
struct Words<Reads> {
    static constexpr WordTable<Reads, 6> table{{{Reads::volts, "volts"},
                                                {Reads::amps, "amps"},
                                                {Reads::ohms, "ohms"},
                                                {Reads::pixels, "pixels"},
                                                {Reads::decibels, "decibels"},
                                                {Reads::seen, "seen"}}};
};
template <>
struct Words<DischargeAt> {
    static constexpr WordTable<DischargeAt, 2> table{
        {{DischargeAt::cell, "cell"}, {DischargeAt::board, "board"}}};
};
template <>
struct Words<Stage> {
    static constexpr WordTable<Stage, 6> table{{{Stage::brief, "brief"},
                                                {Stage::survey, "survey"},
                                                {Stage::agreed, "agreed"},
                                                {Stage::wiring, "wiring"},
                                                {Stage::bench, "on the bench"},
                                                {Stage::handed_over, "handed over"}}};
};
template <>
struct Words<End> {
    static constexpr WordTable<End, 4> table{{{End::pommel, "pommel"},
                                              {End::emitter, "emitter"},
                                              {End::both, "both"},
                                              {End::neither, "neither"}}};
};
template <>
struct Words<Chassis> {
    static constexpr WordTable<Chassis, 3> table{{{Chassis::fixed, "fixed"},
                                                  {Chassis::removable, "removable"},
                                                  {Chassis::slide_out, "slide-out"}}};
};
template <>
struct Words<Material> {
    static constexpr WordTable<Material, 4> table{{{Material::aluminium, "aluminium"},
                                                   {Material::brass, "brass"},
                                                   {Material::steel, "steel"},
                                                   {Material::plastic, "plastic"}}};
};
template <>
struct Words<JointKind> {
    static constexpr WordTable<JointKind, 3> table{{{JointKind::thread, "thread"},
                                                    {JointKind::push_fit, "push fit"},
                                                    {JointKind::glued, "glued"}}};
};
template <>
struct Words<Hand> {
    static constexpr WordTable<Hand, 2> table{{{Hand::right, "right"}, {Hand::left, "left"}}};
};
template <>
struct Words<Loosen> {
    static constexpr WordTable<Loosen, 2> table{
        {{Loosen::may, "may be loosened"}, {Loosen::never, "never"}}};
};
template <>
struct Words<ScrewState> {
    static constexpr WordTable<ScrewState, 4> table{{{ScrewState::fine, "fine"},
                                                     {ScrewState::chewed, "chewed"},
                                                     {ScrewState::seized, "seized"},
                                                     {ScrewState::hidden, "hidden"}}};
};
template <>
struct Words<OpeningUse> {
    static constexpr WordTable<OpeningUse, 5> table{{{OpeningUse::switch_hole, "switch"},
                                                     {OpeningUse::port, "port"},
                                                     {OpeningUse::vent, "vent"},
                                                     {OpeningUse::window, "window"},
                                                     {OpeningUse::slot, "slot"}}};
};
template <>
struct Words<CarrierKind> {
    static constexpr WordTable<CarrierKind, 4> table{{{CarrierKind::fixed, "fixed"},
                                                      {CarrierKind::removable, "removable"},
                                                      {CarrierKind::slide_out, "slide-out"},
                                                      {CarrierKind::cell_bay, "cell bay"}}};
};
template <>
struct Words<CellTop> {
    static constexpr WordTable<CellTop, 2> table{
        {{CellTop::flat, "flat"}, {CellTop::button, "button"}}};
};
template <>
struct Words<Style> {
    static constexpr WordTable<Style, 9> table{{{Style::steady, "steady"},
                                                {Style::pulse, "pulse"},
                                                {Style::flicker, "flicker"},
                                                {Style::fire, "fire"},
                                                {Style::bands, "bands"},
                                                {Style::two, "two colours"},
                                                {Style::cycle, "cycling"},
                                                {Style::flame, "flame of two"},
                                                {Style::charge, "charge level"}}};
};
template <>
struct Words<TubeMaterial> {
    static constexpr WordTable<TubeMaterial, 4> table{
        {{TubeMaterial::unsaid, "not said"},
         {TubeMaterial::polycarbonate, "polycarbonate"},
         {TubeMaterial::acrylic, "acrylic"},
         {TubeMaterial::other, "another"}}};
};
template <>
struct Words<Tint> {
    static constexpr WordTable<Tint, 4> table{{{Tint::clear, "clear"},
                                               {Tint::frosted, "frosted"},
                                               {Tint::white, "white"},
                                               {Tint::coloured, "tinted"}}};
};
template <>
struct Words<Diffuser> {
    static constexpr WordTable<Diffuser, 3> table{
        {{Diffuser::none, "none"}, {Diffuser::film, "film"}, {Diffuser::foam, "foam"}}};
};
template <>
struct Words<Closing> {
    static constexpr WordTable<Closing, 3> table{
        {{Closing::unsaid, "not said"}, {Closing::vented, "vented"}, {Closing::sealed, "sealed"}}};
};
template <>
struct Words<Follows> {
    static constexpr WordTable<Follows, 4> table{{{Follows::usual, "as usual"},
                                                  {Follows::with_blade, "with the blade"},
                                                  {Follows::own, "its own"},
                                                  {Follows::none, "none"}}};
};
template <>
struct Words<Segments> {
    static constexpr WordTable<Segments, 3> table{{{Segments::stay, "stay"},
                                                   {Segments::go_dark, "go dark"},
                                                   {Segments::alone_lit, "alone are lit"}}};
};
template <>
struct Words<FlashRow> {
    static constexpr WordTable<FlashRow, 3> table{
        {{FlashRow::usual, "as usual"}, {FlashRow::lit, "lit"}, {FlashRow::dark, "dark"}}};
};
template <>
struct Words<Rest> {
    static constexpr WordTable<Rest, 4> table{{{Rest::asleep, "asleep"},
                                               {Rest::idle, "idle"},
                                               {Rest::blade_out, "blade out"},
                                               {Rest::charging, "charging"}}};
};
template <>
struct Words<PlugUse> {
    static constexpr WordTable<PlugUse, 4> table{{{PlugUse::kill, "kill plug"},
                                                  {PlugUse::charge, "charger's plug"},
                                                  {PlugUse::configure, "configuration plug"},
                                                  {PlugUse::blank, "blank plug"}}};
};
template <>
struct Words<StateKind> {
    static constexpr WordTable<StateKind, 5> table{{{StateKind::off, "off"},
                                                    {StateKind::asleep, "asleep"},
                                                    {StateKind::idle, "idle"},
                                                    {StateKind::lit, "lit"},
                                                    {StateKind::menu, "menu"}}};
};
template <>
struct Words<Press> {
    static constexpr WordTable<Press, 6> table{{{Press::none, "none"},
                                                {Press::press, "press"},
                                                {Press::twice, "twice"},
                                                {Press::three_times, "three times"},
                                                {Press::hold, "hold"},
                                                {Press::chord, "chord"}}};
};
template <>
struct Words<Motion> {
    static constexpr WordTable<Motion, 6> table{{{Motion::none, "none"},
                                                 {Motion::twist, "twist"},
                                                 {Motion::swing, "swing"},
                                                 {Motion::thrust, "thrust"},
                                                 {Motion::tap, "tap"},
                                                 {Motion::roll, "roll"}}};
};
template <>
struct Words<Side> {
    static constexpr WordTable<Side, 3> table{
        {{Side::either, "either"}, {Side::left, "left"}, {Side::right, "right"}}};
};
template <>
struct Words<Felt> {
    static constexpr WordTable<Felt, 7> table{{{Felt::nothing, "nothing"},
                                               {Felt::swing, "swing"},
                                               {Felt::twist, "twist"},
                                               {Felt::roll, "roll"},
                                               {Felt::thrust, "thrust"},
                                               {Felt::tap, "tap"},
                                               {Felt::clash, "clash"}}};
};
template <>
struct Words<Attitude> {
    static constexpr WordTable<Attitude, 4> table{{{Attitude::any, "any"},
                                                   {Attitude::up, "up"},
                                                   {Attitude::level, "level"},
                                                   {Attitude::down, "down"}}};
};
template <>
struct Words<BladeThere> {
    static constexpr WordTable<BladeThere, 3> table{
        {{BladeThere::any, "any"}, {BladeThere::in, "in"}, {BladeThere::out, "out"}}};
};
template <>
struct Words<Does> {
    static constexpr WordTable<Does, 17> table{{{Does::light, "light"},
                                                {Does::light_silent, "light silently"},
                                                {Does::put_out, "put out"},
                                                {Does::effect, "effect"},
                                                {Does::next_preset, "next preset"},
                                                {Does::previous_preset, "previous preset"},
                                                {Does::preset, "preset"},
                                                {Does::colour, "colour"},
                                                {Does::volume, "volume"},
                                                {Does::charge, "charge level"},
                                                {Does::mute, "mute"},
                                                {Does::track, "track"},
                                                {Does::menu, "into a menu"},
                                                {Does::take, "take it"},
                                                {Does::wake, "wake"},
                                                {Does::sleep, "sleep"},
                                                {Does::other, "other"}}};
};
template <>
struct Words<BladeOut> {
    static constexpr WordTable<BladeOut, 3> table{{{BladeOut::unsensed, "not sensed"},
                                                   {BladeOut::stays_dark, "stays dark"},
                                                   {BladeOut::lights_accents, "lights accents"}}};
};
template <>
struct Words<EffectKind> {
    static constexpr WordTable<EffectKind, 7> table{{{EffectKind::flash, "clash flash"},
                                                     {EffectKind::mark, "blast mark"},
                                                     {EffectKind::lock_up, "lock-up"},
                                                     {EffectKind::drag, "drag"},
                                                     {EffectKind::melt, "melt"},
                                                     {EffectKind::ignition, "ignition"},
                                                     {EffectKind::retraction, "retraction"}}};
};
template <>
struct Words<PhaseKind> {
    static constexpr WordTable<PhaseKind, 3> table{{{PhaseKind::stored, "stored"},
                                                    {PhaseKind::idle, "idle"},
                                                    {PhaseKind::ignited, "ignited"}}};
};
template <>
struct Words<Role> {
    static constexpr WordTable<Role, 5> table{{{Role::supply, "supply"},
                                               {Role::return_path, "return"},
                                               {Role::data, "data"},
                                               {Role::button, "button"},
                                               {Role::sound, "sound"}}};
};

template <>
struct Words<Occasion> {
    static constexpr WordTable<Occasion, 6> table{{{Occasion::unsaid, "not asked"},
                                                   {Occasion::shelf, "shelf piece"},
                                                   {Occasion::carried, "carried all day"},
                                                   {Occasion::rehearsal, "rehearsal"},
                                                   {Occasion::stage, "stage"},
                                                   {Occasion::bout, "bout"}}};
};
template <>
struct Words<Swap> {
    static constexpr WordTable<Swap, 3> table{{{Swap::unsaid, "not asked"},
                                               {Swap::accepted, "acceptable"},
                                               {Swap::refused, "not acceptable"}}};
};
template <>
struct Words<Proof> {
    static constexpr WordTable<Proof, 5> table{{{Proof::hand, "by hand"},
                                                {Proof::look, "look"},
                                                {Proof::part, "part"},
                                                {Proof::finding, "finding closed"},
                                                {Proof::colour, "colour seen"}}};
};
template <>
struct Words<Bargain> {
    static constexpr WordTable<Bargain, 2> table{
        {{Bargain::must_have, "must-have"}, {Bargain::trade_off, "trade-off"}}};
};
template <>
struct Words<Bound> {
    static constexpr WordTable<Bound, 3> table{
        {{Bound::at_least, "at least"}, {Bound::at_most, "at most"}, {Bound::same, "stays"}}};
};
template <>
struct Words<Area> {
    static constexpr WordTable<Area, 7> table{{{Area::mechanical, "mechanical"},
                                               {Area::electrical, "electrical"},
                                               {Area::sound, "sound"},
                                               {Area::lights, "lights"},
                                               {Area::switches, "switches"},
                                               {Area::fasteners, "fasteners"},
                                               {Area::card, "card"}}};
};
template <>
struct Words<Condition> {
    static constexpr WordTable<Condition, 5> table{{{Condition::unknown, "unknown"},
                                                    {Condition::fine, "fine"},
                                                    {Condition::worn, "worn"},
                                                    {Condition::broken, "broken"},
                                                    {Condition::missing, "missing"}}};
};
template <>
struct Words<Fate> {
    static constexpr WordTable<Fate, 3> table{
        {{Fate::undecided, "undecided"}, {Fate::kept, "kept"}, {Fate::replaced, "replaced"}}};
};
/// Units as they stand in files; with_unit() makes them fit to read.
template <>
struct Words<ReadingUnit> {
    static constexpr WordTable<ReadingUnit, 8> table{{{ReadingUnit::none, ""},
                                                      {ReadingUnit::volt, "V"},
                                                      {ReadingUnit::ampere, "A"},
                                                      {ReadingUnit::ohm, "Ohm"},
                                                      {ReadingUnit::milliohm, "mOhm"},
                                                      {ReadingUnit::milliampere_hour, "mAh"},
                                                      {ReadingUnit::millimetre, "mm"},
                                                      {ReadingUnit::decibel, "dB"}}};
};
template <>
struct Words<Mark> {
    static constexpr WordTable<Mark, 5> table{{{Mark::received, "as received"},
                                               {Mark::agreed, "agreed"},
                                               {Mark::built, "as built"},
                                               {Mark::handed_over, "handed over"},
                                               {Mark::came_back, "came back"}}};
};

template <class E>
constexpr std::string_view word(E value) {
    for (const auto& [e, w] : Words<E>::table)
        if (e == value) return w;
    return {};
}

template <class E>
constexpr std::optional<E> from_word(std::string_view text) {
    for (const auto& [e, w] : Words<E>::table)
        if (w == text) return e;
    return std::nullopt;
}

} // namespace conductus::job
