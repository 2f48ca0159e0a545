#pragma once

#include "store/records.h"

#include <optional>

namespace kestrel::app {

/// A guardian has to agree to films, and has not yet. \param age  years; empty: a child until it is known
inline bool isConsentMissing(const store::Athlete& athlete, std::optional<double> age)
{
    constexpr double kOfAge = 18; // years: from then on nobody else has to agree
    return !athlete.guardianConsent && age.value_or(0) < kOfAge;
}

} // namespace kestrel::app
