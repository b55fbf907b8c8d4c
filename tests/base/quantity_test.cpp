// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/quantity.h"

#include <gtest/gtest.h>
#include <type_traits>

#include "core/base/problem.h"

namespace conductus {
namespace {

template <class A, class B>
concept Addable = requires(A a, B b) {
    a + b;
};
template <class A, class B>
concept Comparable = requires(A a, B b) {
    a < b;
};

TEST(Quantity, UnitsDoNotMix) {
    static_assert(Addable<Volt, Volt>);
    static_assert(!Addable<Volt, Ampere>);
    static_assert(!Addable<Millimetre, double>);
    static_assert(!Comparable<Volt, Ohm>);
    static_assert(!std::is_convertible_v<double, Volt>, "a bare number has no unit");
    static_assert(!std::is_convertible_v<Minute, Second>);
}

TEST(Quantity, LawsBetweenUnits) {
    EXPECT_EQ(Ampere(2) * Ohm(3), Volt(6));
    EXPECT_EQ(Volt(6) / Ohm(3), Ampere(2));
    EXPECT_EQ(Volt(6) * Ampere(2), Watt(12));
    EXPECT_EQ(Watt(2) * KelvinPerWatt(10), Kelvin(20));
    EXPECT_EQ(Celsius(20) + Kelvin(20), Celsius(40));
}

TEST(Quantity, ArithmeticOfOneUnit) {
    Millimetre m(10);
    m += Millimetre(5);
    m -= Millimetre(1);
    EXPECT_EQ(m, Millimetre(14));
    EXPECT_EQ(m * 2 - m, m);
    EXPECT_EQ(m / Millimetre(7), 2);
    EXPECT_EQ(-m + m, Millimetre(0));
    EXPECT_LT(Millimetre(1), m);
}

TEST(Problem, ReadsAsOneLine) {
    EXPECT_EQ((Problem{"B1", "is empty", "Charge it"}.text()), "B1: is empty. Charge it");
    EXPECT_EQ((Problem{"", "is empty", ""}.text()), "is empty");
    const Result<int> r = problem("B1", "is empty");
    ASSERT_FALSE(r);
    EXPECT_EQ(r.error(), (Problem{"B1", "is empty", ""}));
}

} // namespace
} // namespace conductus
