#pragma once

#include "app/background.h"
#include "app/decode_service.h"
#include "app/judging.h"
#include "app/other_side.h"
#include "app/workspace.h"
#include "core/play_run.h"
#include "core/review.h"

#include <QElapsedTimer>
#include <QImage>
#include <QTimer>

#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

namespace kestrel::app {

/// What a press on the film does.
enum class Tool { Look, Mark, Point, ScaleLine, UpLine, TargetLine, PlayerBox, GroundMark, GroundLine };

/// One clip on the bench: where the coach stands in it, what is marked, what that means. Views state what is wanted;
/// the session decides, stores, and announces the new state.
class BenchSession : public QObject {
    Q_OBJECT
public:
    explicit BenchSession(Workspace&, QObject* parent = nullptr);

    // the clip
    void open(store::ClipId);
    void close();
    bool isOpen() const { return m_clip.id.isValid(); }
    const store::Clip& clip() const { return m_clip; }
    const store::FilmingDay& day() const { return m_day; }
    const store::Athlete& athlete() const { return m_athlete; }
    /// Of the clip, in the order of the film; empty only while nothing is open.
    const std::vector<store::Repetition>& repetitions() const { return m_repetitions; }
    const store::Repetition& repetition() const { return m_repetition; }
    const Pack* pack() const { return m_pack; }
    const Marking& marking() const { return m_marking; }
    /// Judged when first asked for after a change; where there is much to go through, on another thread, and until
    /// reviewChanged() it is the one before the change, or an empty one.
    const Review& review() const { return judged().review; }
    bool isJudged() const { return m_isJudged; } ///< false: nobody has asked since the last change, or reviewChanged() is to come
    const FrameClock& clock() const { return m_clock; }
    /// How much of the film is indexed, 0 to 1; empty: it is open, or was known.
    std::optional<double> indexing() const { return m_indexing; }
    /// Empty until the film is open; then what went wrong, if something did.
    const std::optional<Error>& filmError() const { return m_filmError; }
    bool hasFilm() const { return m_hasFilm; }
    std::string filmPath() const;
    const std::string& filmIndex() const { return m_filmIndex; } ///< as media::Film::indexBytes(); empty until it is open
    /// The film is open, but the picture stood at cannot be decoded.
    bool isPictureDamaged() const { return m_damaged == m_frame; }
    const std::vector<std::string>& filmWarnings() const { return m_filmWarnings; }

    void takeSettings(); ///< they have changed

    // where the coach stands
    FrameIndex frame() const { return m_frame; }
    std::int64_t frames() const { return m_clock.frames(); }
    void setFrame(FrameIndex);
    /// The picture that came last: while a far one is decoded it is another than frame(), and what is drawn belongs to it.
    FrameIndex pictured() const { return m_pictured.value_or(m_frame); }
    void step(int frames) { setFrame(FrameIndex(m_frame.value + frames)); }
    void stepKeyPosition(int direction); ///< to the next placed one, or the previous
    void goTo(const std::string& keyPosition);
    /// The key position whose frame this is; null: none.
    const KeyPosition* keyPositionHere() const;
    void setPictureSize(media::PixelSize largest); ///< how large pictures are wanted

    // repetitions
    void setRepetition(store::RepetitionId); ///< and stands at its beginning
    void stepRepetition(int direction);
    /// The loop, or where there is none the clip from here on, becomes a repetition of its own.
    void addRepetition();
    void changeRepetition(const QString& text, const store::Repetition& after);
    void removeRepetition();
    /// Repetitions on the day's other clips that this one could be filmed as from another side.
    std::vector<OtherSideChoice> otherSideChoices() const;
    std::optional<store::RepetitionId> otherSide() const; ///< empty: filmed from one side only
    void setOtherSide(std::optional<store::RepetitionId>);

    // playing
    bool isPlaying() const { return m_tick.isActive(); }
    bool isBackward() const { return m_isBackward; }
    /// \param backward  the motion runs in reverse
    void setPlaying(bool, bool backward = false);
    double speed() const { return m_speed; }
    void setSpeed(double); ///< 1 is true speed
    /// Pictures whose time went by unseen since playing began.
    std::int64_t droppedPictures() const { return m_dropped; }
    std::optional<PlayRun::Stretch> loop() const { return m_loop; }
    /// From the key position before to the one after where the coach stands; called again it ends looping.
    void toggleLoop();
    void setLoopFirst(); ///< the loop begins where the coach stands
    void setLoopLast();  ///< the loop ends where the coach stands

    // marking
    Tool tool() const { return m_tool; }
    void setTool(Tool);
    void placeKeyPosition(std::size_t ordinal); ///< nothing happens beyond the pack's last
    void moveKeyPosition(const std::string& id, FrameIndex);
    void removeKeyPosition(const std::string& id);
    /// How fast each segment turns, for drawing; empty without a sequence.
    const std::vector<SegmentCurve>& sequenceCurves() const { return judged().curves; }
    /// Whether the athlete has been taught to avoid that fault; what is not yet taught is never blamed.
    void setTaught(const std::string& fault, bool);
    bool isTaught(const std::string& fault) const;
    /// The coach's answer to an observation of the pack; empty takes it back.
    void answer(const std::string& observation, const std::optional<std::string>& choice);
    /// The landmark the guide asks for at this frame; empty: none here.
    std::optional<Landmark> nextLandmark() const;
    /// Marked and asked for at this key position.
    std::pair<int, int> guideCount() const;
    void skipLandmark();
    MarkExtent extent() const { return m_extent; }
    void setExtent(MarkExtent); ///< how much the guide asks for
    void placeMark(ImagePoint); ///< the guide's landmark; goes on to the next one, or the next key position
    void moveMark(const Landmark&, ImagePoint);
    void placePoint(ImagePoint); ///< a point of no name, to be followed
    /// To the next of the programs' marks that readings rest on, least sure first.
    void goToDoubt();
    void nudgeSelected(double dx, double dy);
    void removeSelected();
    const std::optional<Landmark>& selectedMark() const { return m_selectedMark; }
    void selectMark(std::optional<Landmark>);
    std::vector<Mark> marksHere() const { return marksOn(m_frame); }
    std::vector<Mark> marksOn(FrameIndex) const;

    // the scene
    /// Between two places on the ground; drawn until another tool is taken.
    struct GroundLine {
        ImagePoint from, to;
        QString text; ///< its length
    };
    const std::optional<GroundLine>& groundLine() const { return m_groundLine; }
    /// One that lies there already is put right.
    void addGroundMark(const GroundMark&);
    void forgetGround();

    double knownLength() const { return m_knownLength; }
    void setKnownLength(double metres) { m_knownLength = metres; }
    void drawLine(ImagePoint from, ImagePoint to); ///< for the line tool that is chosen; for a box, from corner to corner
    void setView(View);
    void setRates(Rates);
    void setVariant(const std::string&); ///< of the repetition

    // readings
    const std::string& selectedReading() const { return m_selectedReading; }
    void selectReading(const std::string& measure); ///< and goes to its frame
    /// To be drawn on the film now; null: nothing.
    const Reading* shownReading() const;

    void relocateFilm(const QString& folder); ///< looks there for the film by its content
    bool isSearching() const { return m_searching; }

signals:
    void clipChanged();
    void filmChanged(); ///< opened, failed, or being searched for
    void frameChanged();
    void pictureReady(const QImage& picture);
    void markingChanged();
    void reviewChanged(); ///< follows markingChanged() in a turn of its own: judging and showing it takes longer
    void selectionChanged();
    void toolChanged();
    void playingChanged();
    void pictureDropped();                                                     ///< droppedPictures() has grown
    void pointCorrected(const kestrel::Landmark& landmark);                    ///< one that was followed, or is to be
    void groundPlaced(ImagePoint);                                             ///< its distances are wanted
    void playerDrawn(kestrel::ImagePoint corner, double width, double height); ///< a box round the player, on this picture
    void message(const QString& text);

private:
    void reload();
    void unjudge();
    std::shared_ptr<const kestrel::Repetition> seenFromOtherSide(store::RepetitionId) const; ///< null: one film only
    ToJudge toJudge() const;
    const Judged& judged() const;
    void judgeLater(ToJudge);
    void take(Judged) const;
    void takeReviewTurn();
    void openFilm();
    void takeFilm(const media::FilmInfo&, const std::string& indexBytes);
    void keepIndex(const std::string& indexBytes);
    void wantPicture();
    void playOn();
    void startRun();
    void setLoop(std::optional<PlayRun::Stretch>);
    FrameIndex clamped(FrameIndex) const;
    void editEvent(const QString& text, const std::string& id, const std::optional<Event>& after);
    void editMark(const QString& text, FrameIndex, const Landmark&, const std::optional<Mark>& after);
    void measureOnGround(ImagePoint from, ImagePoint to);
    void editClip(const QString& text, const store::Clip& after);
    std::vector<Landmark> landmarksAsked(const std::string& keyPosition) const;
    void goOn();

    Workspace& m_workspace;
    DecodeService m_decoder;
    store::Clip m_clip;
    store::FilmingDay m_day;
    store::Athlete m_athlete;
    std::vector<store::Repetition> m_repetitions;
    store::Repetition m_repetition;
    const Pack* m_pack = nullptr;
    Marking m_marking;
    FrameClock m_clock;
    std::vector<MediaTime> m_shown;
    mutable Judged m_judged; // its `read` holds good until something beside the shown repetition changes
    mutable bool m_isJudged = false;
    bool m_isJudging = false; // on another thread
    Background m_judging;
    /// The shown repetition filmed from another side, and whose that is.
    std::shared_ptr<const kestrel::Repetition> m_fromOtherSide;
    store::RepetitionId m_otherSideOf;
    int m_tasks = 1; ///< that go home
    QTimer m_reviewTurn;
    std::optional<Error> m_filmError;
    std::vector<std::string> m_filmWarnings;
    std::optional<double> m_indexing;
    std::string m_filmIndex;
    bool m_hasFilm = false, m_searching = false;
    std::optional<FrameIndex> m_damaged, m_pictured;

    FrameIndex m_frame{0};
    media::PixelSize m_largest;
    Tool m_tool = Tool::Look;
    MarkExtent m_extent = MarkExtent::Measured;
    std::optional<Landmark> m_selectedMark;
    std::set<std::pair<std::int64_t, Landmark>> m_skipped, m_lookedAt; // of the guide; of the doubtful ones
    std::string m_selectedReading;
    std::optional<GroundLine> m_groundLine;
    double m_knownLength = 0.61;

    QTimer m_tick;
    QElapsedTimer m_playClock;
    std::optional<PlayRun> m_run;
    double m_speed = 0.125;
    bool m_isBackward = false;
    std::int64_t m_shownPictures = 0, m_dropped = 0; // of this run
    std::optional<PlayRun::Stretch> m_loop;
    media::Travel m_travel = media::Travel::Forward;
};

/// "front (lead) knee": how the guide names a landmark for this athlete.
QString plainName(const Landmark&, Hand, const Pack*);

} // namespace kestrel::app
