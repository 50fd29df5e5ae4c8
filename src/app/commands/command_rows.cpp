// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/commands/command_rows.h"

#include <QCoreApplication>

namespace ear {
namespace {

using G = CommandGroup;
constexpr bool kSwitches = true, kGap = true;
constexpr auto kNo = Needs::nothing, kStudy = Needs::study, kSound = Needs::sound, kPassage = Needs::passage;

// clang-format off: a table is read by its columns
constexpr CommandRow kRows[] = {
    {G::study, "new", QT_TRANSLATE_NOOP("Commands", "New from a recording …"), "Ctrl+N"},
    {G::study, "open", QT_TRANSLATE_NOOP("Commands", "Open …"), "Ctrl+O"},
    {G::study, "add-take", QT_TRANSLATE_NOOP("Commands", "Add another take …"), "Ctrl+Shift+N", kStudy,
     QT_TRANSLATE_NOOP("Commands", "Another recording of the same song"), false, kGap},
    {G::study, "point-to", QT_TRANSLATE_NOOP("Commands", "Point to the recording …"), "", kStudy,
     QT_TRANSLATE_NOOP("Commands", "Where the file of this take lies now")},
    {G::study, "rename-take", QT_TRANSLATE_NOOP("Commands", "Rename the take …"), "", kStudy},
    {G::study, "save", QT_TRANSLATE_NOOP("Commands", "Save"), "Ctrl+S", kStudy, nullptr, false, kGap},
    {G::study, "save-as", QT_TRANSLATE_NOOP("Commands", "Save as …"), "Ctrl+Shift+S", kStudy},
    {G::study, "sheet", QT_TRANSLATE_NOOP("Commands", "Sheet …"), "Ctrl+P", kStudy,
     QT_TRANSLATE_NOOP("Commands", "What the student gets, on paper or as PDF"), false, kGap},
    {G::study, "quit", QT_TRANSLATE_NOOP("Commands", "Quit"), "Ctrl+Q", kNo, nullptr, false, kGap},

    {G::edit, "undo", QT_TRANSLATE_NOOP("Commands", "Undo"), "Ctrl+Z"},
    {G::edit, "redo", QT_TRANSLATE_NOOP("Commands", "Redo"), "Ctrl+Shift+Z"},
    {G::edit, "cue", QT_TRANSLATE_NOOP("Commands", "Mark this spot …"), "M", kSound,
     QT_TRANSLATE_NOOP("Commands", "Put a word of your own at the playhead"), false, kGap},
    {G::edit, "note", QT_TRANSLATE_NOOP("Commands", "Note for the lesson"), "Shift+M", kSound,
     QT_TRANSLATE_NOOP("Commands", "Type words that are pinned to where the sound is")},

    {G::play, "play", QT_TRANSLATE_NOOP("Commands", "Play"), "Space", kSound},
    {G::play, "return", QT_TRANSLATE_NOOP("Commands", "Back to the passage's start"), "Backspace", kSound},
    {G::play, "beat-back", QT_TRANSLATE_NOOP("Commands", "A beat back"), "Left", kSound},
    {G::play, "beat-on", QT_TRANSLATE_NOOP("Commands", "A beat on"), "Right", kSound},
    {G::play, "bar-back", QT_TRANSLATE_NOOP("Commands", "A bar back"), "Ctrl+Left", kSound},
    {G::play, "bar-on", QT_TRANSLATE_NOOP("Commands", "A bar on"), "Ctrl+Right", kSound},
    {G::play, "slower", QT_TRANSLATE_NOOP("Commands", "Slower by 5 %"), "Z", kSound, nullptr, false, kGap},
    {G::play, "faster", QT_TRANSLATE_NOOP("Commands", "Faster by 5 %"), "X", kSound},
    {G::play, "full-speed", QT_TRANSLATE_NOOP("Commands", "Full speed"), "C", kSound},
    {G::play, "half-speed", QT_TRANSLATE_NOOP("Commands", "Half speed"), "Shift+C", kSound},
    {G::play, "click", QT_TRANSLATE_NOOP("Commands", "Click on the beats"), "R", kSound,
     QT_TRANSLATE_NOOP("Commands", "A click on every beat of the recording, following its drift"), kSwitches, kGap},
    {G::play, "count-in", QT_TRANSLATE_NOOP("Commands", "Count a bar in"), "Y", kSound,
     QT_TRANSLATE_NOOP("Commands", "A bar of clicks at the present speed before it plays"), kSwitches},
    {G::play, "softer", QT_TRANSLATE_NOOP("Commands", "Softer"), "Ctrl+Down", kSound, nullptr, false, kGap},
    {G::play, "louder", QT_TRANSLATE_NOOP("Commands", "Louder"), "Ctrl+Up", kSound},

    {G::passage, "mark-start", QT_TRANSLATE_NOOP("Commands", "Passage starts here"), "Q", kSound},
    {G::passage, "mark-end", QT_TRANSLATE_NOOP("Commands", "Passage ends here"), "W", kSound},
    {G::passage, "loop-here", QT_TRANSLATE_NOOP("Commands", "Loop the bar here"), "O", kSound,
     QT_TRANSLATE_NOOP("Commands", "Loop the bar under the playhead")},
    {G::passage, "wider", QT_TRANSLATE_NOOP("Commands", "A wider passage"), "P", kSound,
     QT_TRANSLATE_NOOP("Commands", "From the bar to two bars, the phrase of four, the section, the whole")},
    {G::passage, "narrower", QT_TRANSLATE_NOOP("Commands", "A narrower passage"), "U", kPassage},
    {G::passage, "passage-on", QT_TRANSLATE_NOOP("Commands", "The next passage of this length"), "'", kPassage},
    {G::passage, "passage-back", QT_TRANSLATE_NOOP("Commands", "The passage of this length before"), ";", kPassage},
    {G::edges, "start-earlier", QT_TRANSLATE_NOOP("Commands", "Start 10 ms earlier"), "A", kPassage},
    {G::edges, "start-later", QT_TRANSLATE_NOOP("Commands", "Start 10 ms later"), "S", kPassage},
    {G::edges, "end-earlier", QT_TRANSLATE_NOOP("Commands", "End 10 ms earlier"), "D", kPassage},
    {G::edges, "end-later", QT_TRANSLATE_NOOP("Commands", "End 10 ms later"), "F", kPassage},
    {G::edges, "start-earlier-more", QT_TRANSLATE_NOOP("Commands", "Start 100 ms earlier"), "Shift+A", kPassage,
     nullptr, false, kGap},
    {G::edges, "start-later-more", QT_TRANSLATE_NOOP("Commands", "Start 100 ms later"), "Shift+S", kPassage},
    {G::edges, "end-earlier-more", QT_TRANSLATE_NOOP("Commands", "End 100 ms earlier"), "Shift+D", kPassage},
    {G::edges, "end-later-more", QT_TRANSLATE_NOOP("Commands", "End 100 ms later"), "Shift+F", kPassage},
    {G::edges, "start-earlier-least", QT_TRANSLATE_NOOP("Commands", "Start 1 ms earlier"), "Alt+Shift+A", kPassage,
     nullptr, false, kGap},
    {G::edges, "start-later-least", QT_TRANSLATE_NOOP("Commands", "Start 1 ms later"), "Alt+Shift+S", kPassage},
    {G::edges, "end-earlier-least", QT_TRANSLATE_NOOP("Commands", "End 1 ms earlier"), "Alt+Shift+D", kPassage},
    {G::edges, "end-later-least", QT_TRANSLATE_NOOP("Commands", "End 1 ms later"), "Alt+Shift+F", kPassage},
    {G::edges, "start-beat-earlier", QT_TRANSLATE_NOOP("Commands", "Start a beat earlier"), "Ctrl+Alt+A", kPassage,
     nullptr, false, kGap},
    {G::edges, "start-beat-later", QT_TRANSLATE_NOOP("Commands", "Start a beat later"), "Ctrl+Alt+S", kPassage},
    {G::edges, "end-beat-earlier", QT_TRANSLATE_NOOP("Commands", "End a beat earlier"), "Ctrl+Alt+D", kPassage},
    {G::edges, "end-beat-later", QT_TRANSLATE_NOOP("Commands", "End a beat later"), "Ctrl+Alt+F", kPassage},
    {G::passage, "loop", QT_TRANSLATE_NOOP("Commands", "Repeat the passage"), "E", kSound, nullptr, kSwitches, kGap},
    {G::passage, "keep", QT_TRANSLATE_NOOP("Commands", "Keep passage"), "K", kPassage,
     QT_TRANSLATE_NOOP("Commands",
                       "Keep the passage with a name, its speed and what you hear in it; a changed one as it is now")},
    {G::passage, "name-passage", QT_TRANSLATE_NOOP("Commands", "Name the passage"), "F2", kPassage},
    {G::passage, "back-to-kept", QT_TRANSLATE_NOOP("Commands", "Back to the passage as kept"), "Shift+K", kPassage,
     QT_TRANSLATE_NOOP(
         "Commands", "Undo what was changed on the desk since the passage was kept; once more brings the change back")},
    {G::passage, "drop", QT_TRANSLATE_NOOP("Commands", "Clear the passage"), "Escape", kPassage},
    {G::passage, "climb", QT_TRANSLATE_NOOP("Commands", "Practise it from slow to fast"), "Shift+L", kSound,
     QT_TRANSLATE_NOOP("Commands", "Loop the passage a little faster each time, and end it again"), false, kGap},
    {G::passage, "clean", QT_TRANSLATE_NOOP("Commands", "That was clean"), "L", kSound,
     QT_TRANSLATE_NOOP("Commands", "Counts this repetition on the way to full speed")},
    {G::passage, "answer", QT_TRANSLATE_NOOP("Commands", "Call and answer"), "Shift+Y", kPassage,
     QT_TRANSLATE_NOOP("Commands", "The passage sounds, then as long a pause in which you play it")},

    {G::listen, "isolated", QT_TRANSLATE_NOOP("Commands", "Isolated, or the whole sound"), "/", kSound,
     QT_TRANSLATE_NOOP("Commands", "Back and forth between what is isolated and the whole sound"), kSwitches},
    {G::listen, "only-left", QT_TRANSLATE_NOOP("Commands", "Only the left"), "1", kSound},
    {G::listen, "only-middle", QT_TRANSLATE_NOOP("Commands", "Only the middle"), "2", kSound},
    {G::listen, "only-right", QT_TRANSLATE_NOOP("Commands", "Only the right"), "3", kSound},
    {G::listen, "only-sides", QT_TRANSLATE_NOOP("Commands", "Only the sides"), "4", kSound},
    {G::listen, "only-ringing", QT_TRANSLATE_NOOP("Commands", "Only what rings"), "5", kSound},
    {G::listen, "only-striking", QT_TRANSLATE_NOOP("Commands", "Only what strikes"), "6", kSound},
    {G::listen, "guess", QT_TRANSLATE_NOOP("Commands", "Guess what sounds"), "9", kSound,
     QT_TRANSLATE_NOOP("Commands", "Take the moment at the playhead and guess its notes"), false, kGap},
    {G::listen, "peek", QT_TRANSLATE_NOOP("Commands", "Peek at what sounds, while held"), "0", kSound},
    {G::listen, "freeze", QT_TRANSLATE_NOOP("Commands", "Hold the moment …"), "8", kSound,
     QT_TRANSLATE_NOOP("Commands",
                       "Let the sound at the playhead go on, with its spectrum and the notes that may be in it")},
    {G::listen, "compare", QT_TRANSLATE_NOOP("Commands", "Compare with another time …"), "7", kPassage,
     QT_TRANSLATE_NOOP("Commands", "The passage above the same bars of another verse, with what differs marked")},
    {G::listen, "follow-voice", QT_TRANSLATE_NOOP("Commands", "Follow the voice of the passage"), "Shift+J", kPassage,
     QT_TRANSLATE_NOOP("Commands", "Draw its pitch over the map, with bends and vibrato measured")},
    {G::listen, "strokes", QT_TRANSLATE_NOOP("Commands", "Strokes of the passage …"), "I", kSound,
     QT_TRANSLATE_NOOP("Commands", "Where in the beat the hand strikes, and which way it moves")},
    {G::listen, "measure-again", QT_TRANSLATE_NOOP("Commands", "Measure the recording again"), "Ctrl+Shift+L", kSound,
     nullptr, false, kGap},

    {G::guitar, "settle-guitar", QT_TRANSLATE_NOOP("Commands", "Settle the guitar"), "Shift+G", kStudy,
     QT_TRANSLATE_NOOP("Commands", "Choose among the readings of tuning and capo, or set your own")},
    {G::guitar, "next-guitar", QT_TRANSLATE_NOOP("Commands", "The next guitar in hand"), "Ctrl+G", kStudy,
     QT_TRANSLATE_NOOP("Commands", "Neck, shapes and tune-up follow the guitar in hand")},
    {G::guitar, "tune-up", QT_TRANSLATE_NOOP("Commands", "Tune up …"), "Ctrl+T"},
    {G::guitar, "chord-here", QT_TRANSLATE_NOOP("Commands", "Chord at the playhead …"), "J", kStudy, nullptr, false,
     kGap},
    {G::guitar, "chord-box", QT_TRANSLATE_NOOP("Commands", "Chord box …"), "Ctrl+B", kNo,
     QT_TRANSLATE_NOOP("Commands", "Frets to names and names to frets")},
    {G::guitar, "cent-down", QT_TRANSLATE_NOOP("Commands", "A cent lower"), "Down", kSound, nullptr, false, kGap},
    {G::guitar, "cent-up", QT_TRANSLATE_NOOP("Commands", "A cent higher"), "Up", kSound},
    {G::guitar, "semitone-down", QT_TRANSLATE_NOOP("Commands", "A semitone lower"), "Shift+Down", kSound},
    {G::guitar, "semitone-up", QT_TRANSLATE_NOOP("Commands", "A semitone higher"), "Shift+Up", kSound},
    {G::guitar, "concert", QT_TRANSLATE_NOOP("Commands", "To concert pitch"), "V", kSound,
     QT_TRANSLATE_NOOP("Commands", "Shift what you hear to A 440, and back"), kSwitches},
    {G::guitar, "meet-guitar", QT_TRANSLATE_NOOP("Commands", "To meet my guitar, the next way"), "Shift+V", kSound,
     QT_TRANSLATE_NOOP("Commands", "In standard tuning, without the capo, and back: what the part in hand allows")},
    {G::guitar, "drone", QT_TRANSLATE_NOOP("Commands", "Hold the key note"), "Shift+B", kSound,
     QT_TRANSLATE_NOOP("Commands", "A held note on the tonic, at the pitch of what you hear"), kSwitches, kGap},

    {G::time, "tap", QT_TRANSLATE_NOOP("Commands", "Tap the beat"), "T", kSound,
     QT_TRANSLATE_NOOP("Commands", "Tap along while it plays to set tempo and beats")},
    {G::time, "tap-first", QT_TRANSLATE_NOOP("Commands", "Tap the first beat of a bar"), "Shift+T", kSound},
    {G::time, "bar-here", QT_TRANSLATE_NOOP("Commands", "A bar starts here"), "B", kSound, nullptr, false, kGap},
    {G::time, "one-earlier", QT_TRANSLATE_NOOP("Commands", "Bar lines a beat earlier"), ",", kSound},
    {G::time, "one-later", QT_TRANSLATE_NOOP("Commands", "Bar lines a beat later"), ".", kSound},
    {G::time, "times", QT_TRANSLATE_NOOP("Commands", "Times …"), "Ctrl+L", kNo,
     QT_TRANSLATE_NOOP("Commands", "Sections and marks with their times, to copy, save and read in"), false, kGap},

    {G::drawer, "page-pitch", QT_TRANSLATE_NOOP("Commands", "Pitch"), "Ctrl+1"},
    {G::drawer, "page-guitar", QT_TRANSLATE_NOOP("Commands", "Guitar"), "Ctrl+2"},
    {G::drawer, "page-key", QT_TRANSLATE_NOOP("Commands", "Key"), "Ctrl+3"},
    {G::drawer, "page-time", QT_TRANSLATE_NOOP("Commands", "Time"), "Ctrl+4"},
    {G::drawer, "page-form", QT_TRANSLATE_NOOP("Commands", "Form"), "Ctrl+5"},
    {G::drawer, "page-passages", QT_TRANSLATE_NOOP("Commands", "Passages"), "Ctrl+6"},
    {G::drawer, "page-isolate", QT_TRANSLATE_NOOP("Commands", "Isolate"), "Ctrl+7"},
    {G::drawer, "page-practise", QT_TRANSLATE_NOOP("Commands", "Practise"), "Ctrl+8"},
    {G::drawer, "page-hear", QT_TRANSLATE_NOOP("Commands", "Hear"), "Ctrl+9"},
    {G::view, "nearer", QT_TRANSLATE_NOOP("Commands", "Nearer"), "+"},
    {G::view, "farther", QT_TRANSLATE_NOOP("Commands", "Farther"), "-"},
    {G::view, "show-passage", QT_TRANSLATE_NOOP("Commands", "The passage"), "G"},
    {G::view, "show-whole", QT_TRANSLATE_NOOP("Commands", "The whole recording"), "H"},
    {G::view, "pitch-map", QT_TRANSLATE_NOOP("Commands", "Pitch map"), "Shift+H", kNo, nullptr, kSwitches, kGap},
    {G::view, "neck", QT_TRANSLATE_NOOP("Commands", "Neck"), "N", kNo, nullptr, kSwitches},
    {G::view, "big-deck", QT_TRANSLATE_NOOP("Commands", "Big deck"), "F11", kNo,
     QT_TRANSLATE_NOOP("Commands", "Large buttons for hands that hold a guitar")},
    {G::look, "look-light", QT_TRANSLATE_NOOP("Commands", "Light"), ""},
    {G::look, "look-dark", QT_TRANSLATE_NOOP("Commands", "Dark"), ""},
    {G::look, "look-system", QT_TRANSLATE_NOOP("Commands", "As the system"), ""},
    {G::view, "naming", QT_TRANSLATE_NOOP("Commands", "Naming …"), "", kNo,
     QT_TRANSLATE_NOOP("Commands", "How strings, notes, bends and places are called"), false, kGap},
    {G::view, "keys-and-pedals", QT_TRANSLATE_NOOP("Commands", "Keys and pedals …"), "Ctrl+K"},
    {G::view, "ears", QT_TRANSLATE_NOOP("Commands", "Ears …"), "Ctrl+E", kNo,
     QT_TRANSLATE_NOOP("Commands", "How loud and how long you have listened")},

    {G::help, "find-command", QT_TRANSLATE_NOOP("Commands", "Find a command …"), "Ctrl+Space"},
    {G::help, "open-demo", QT_TRANSLATE_NOOP("Commands", "Open the demo study"), ""},
    {G::help, "about", QT_TRANSLATE_NOOP("Commands", "About Inner Ear"), ""},
};
// clang-format on

}  // namespace

std::span<const CommandRow> commandRows() {
  return kRows;
}

QString groupTitle(CommandGroup group) {
  static constexpr const char* kTitles[] = {
      QT_TRANSLATE_NOOP("Commands", "&Study"),        QT_TRANSLATE_NOOP("Commands", "&Edit"),
      QT_TRANSLATE_NOOP("Commands", "&Play"),         QT_TRANSLATE_NOOP("Commands", "P&assage"),
      QT_TRANSLATE_NOOP("Commands", "Its edges"),     QT_TRANSLATE_NOOP("Commands", "&Listen"),
      QT_TRANSLATE_NOOP("Commands", "&Guitar"),       QT_TRANSLATE_NOOP("Commands", "&Time"),
      QT_TRANSLATE_NOOP("Commands", "&View"),         QT_TRANSLATE_NOOP("Commands", "Drawer"),
      QT_TRANSLATE_NOOP("Commands", "Light or dark"), QT_TRANSLATE_NOOP("Commands", "&Help")};
  return QCoreApplication::translate("Commands", kTitles[static_cast<int>(group)]);
}

}  // namespace ear
