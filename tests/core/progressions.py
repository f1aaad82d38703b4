"""Progressions as players write them in one key, and the keys in which they may be heard; the first one is the best."""

PROGRESSIONS = (
    # loops of four
    ("Am F C G", ("A minor", "C major")), ("C G Am F", ("C major",)), ("F C G Am", ("C major", "A minor")),
    ("F#m D A E", ("F# minor", "A major")), ("Em C G D", ("E minor", "G major")), ("C Am F G", ("C major",)),
    ("Am G F G", ("A minor", "C major")), ("Am G F E7", ("A minor",)), ("Dm Bb F C", ("D minor", "F major")), ("G D Em C", ("G major",)),
    ("C F G F", ("C major",)), ("F G Am Am", ("A minor", "C major")), ("Am Em F G", ("A minor", "C major")), ("C Em F G", ("C major",)),
    ("Am Dm F G", ("A minor", "C major")), ("F G C Am", ("C major", "A minor")), ("Bm G D A", ("B minor", "D major")),
    ("C F Am G", ("C major",)), ("Am F G C", ("A minor", "C major")), ("D A Bm G", ("D major",)),
    # two-fives, turnarounds, seventh chords
    ("Dm7 G7 Cmaj7", ("C major",)), ("Cmaj7 Am7 Dm7 G7", ("C major",)), ("Dm7b5 G7 Cm", ("C minor",)), ("Fm7 Bb7 Ebmaj7 Cm7", ("Eb major",)),
    ("Em7 A7 Dm7 G7 C", ("C major",)), ("Am7 D7 Gmaj7 Cmaj7 F#m7b5 B7 Em", ("E minor", "G major")), ("C6 A7 D7 G7 C6", ("C major",)),
    ("Cm7 Fm7 Dm7b5 G7 Cm7", ("C minor",)), ("Gmaj7 E7 Am7 D7", ("G major",)), ("Fmaj7 Bb7 Fmaj7", ("F major",)),
    # minor and borrowed
    ("Am E7 Am Dm E7 Am", ("A minor",)), ("C Fm C", ("C major",)), ("C Eb F C", ("C major",)), ("Cm Ab Bb Cm", ("C minor",)), ("Em B7 Em Am B7 Em", ("E minor",)),
    ("Am Dm G C F Bm7b5 E7 Am", ("A minor",)), ("Cm G Cm Fm G Cm", ("C minor",)), ("C Ab Bb C", ("C major",)),
    # blues
    ("C7 F7 C7 C7 F7 F7 C7 C7 G7 F7 C7 G7", ("C major",)), ("Am7 Dm7 Am7 E7", ("A minor",)), ("G7 C7 G7 D7 C7 G7", ("G major",)),
    # hymns and songs
    ("G C G D G", ("G major",)), ("D G A D Bm Em A D", ("D major",)), ("F Bb C F Dm Gm C F", ("F major",)), ("Eb Ab Bb Eb", ("Eb major",)),
    ("C E7 F Fm C G C", ("C major",)), ("A D E A", ("A major",)), ("Bb Gm Eb F Bb", ("Bb major",)), ("Em D C B7", ("E minor",)),
    ("Dm Gm A7 Dm", ("D minor",)),
    # modes
    ("Dm7 G7 Dm7 G7", ("D dorian", "C major")), ("Am7 D7 Am7 D7", ("A dorian", "G major")), ("Em7 A Em7 A", ("E dorian",)),
    ("D C G D", ("D mixolydian", "G major")), ("G F C G", ("G mixolydian", "C major")), ("G F G F", ("G mixolydian",)), ("C Bb G7 C", ("C major",)),
    ("Cmaj7 D Cmaj7 D", ("C lydian", "G major")), ("F G F G", ("F lydian",)), ("Em F Em F", ("E phrygian",)), ("Bm C Bm C", ("B phrygian",)),
)  # fmt: skip
