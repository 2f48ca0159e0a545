#include "app/shell/face_hiding.h"

#include "app/shell/settings.h"

namespace kestrel::app {

bool hidesFaces(const store::Athlete& athlete, std::optional<double> age)
{
    const auto when = Settings::faceHiding();
    return when == FaceHiding::Always || (when == FaceHiding::WithoutConsent && isConsentMissing(athlete, age));
}

} // namespace kestrel::app
