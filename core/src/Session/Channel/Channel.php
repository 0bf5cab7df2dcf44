<?php

declare(strict_types=1);

namespace Hafen\Session\Channel;

use Hafen\Session\Automation\AutomationLane;
use Hafen\Session\Automation\AutomationTarget;
use Hafen\Session\Copies;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\Inserts;
use Hafen\Session\Insert\Row;
use Hafen\Session\Macro\Macro;
use Hafen\Session\Sound\SoundSwitch;
use Hafen\Session\Source\Clip;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\Source;
use Hafen\Session\Source\Version;

/**
 * One path: source, trim, inserts, fader, pan, inserts after the fader, output.
 *
 * Gains in dB (null is silence), pan from -1 (left) to +1 (right). `output` is a channel id, "none" or an interface
 * pair such as "hw:1-2". Where `aligned` is false nothing is delayed for this channel: its branches meet, and its output
 * and sends arrive, as late as its own processors make them. `hidden` is a matter of the screen and changes no sound.
 * A channel that is `off` is silent and is not worked. A cue hears a `click` on each beat, its peaks at so many dBFS; null is none.
 * Its `performer` says who hears it, and how they set it for themselves.
 * A `frozen` channel plays a file up to its fader; its source, trim and inserts stand as they are, for when it is unfrozen.
 */
final readonly class Channel
{
    use Copies;

    /**
     * @param  list<Insert>  $inserts
     * @param  list<Insert>  $postInserts
     * @param  list<Send>  $sends
     * @param  list<AutomationLane>  $automation  one for each thing that moves
     * @param  list<Version>  $versions  clips that are kept beside those a track plays
     * @param  list<Macro>  $macros  controls that each move several of its own
     * @param  list<SoundSwitch>  $sounds  switches that each choose how its rows stand
     */
    public function __construct(
        public string $id,
        public ChannelKind $kind,
        public string $name,
        public Width $width,
        public Source $source,
        public ChannelTrim $trim = new ChannelTrim,
        public bool $insertsOn = true,
        public array $inserts = [],
        public ?float $fader = 0.0,
        public float $pan = 0.0,
        public bool $mute = false,
        public bool $solo = false,
        public bool $soloSafe = false,
        public array $postInserts = [],
        public string $output = 'main',
        public array $sends = [],
        public bool $aligned = true,
        public bool $hidden = false,
        public array $automation = [],
        public ?Frozen $frozen = null,
        public bool $off = false,
        public array $versions = [],
        public ?float $click = null,
        public ?Performer $performer = null,
        public array $macros = [],
        public array $sounds = [],
    ) {
    }

    /** @return list<Insert> */
    public function row(Row $row): array
    {
        return $row === Row::Inserts ? $this->inserts : $this->postInserts;
    }

    /** @return list<Insert> both rows in order, with all that is in their splits */
    public function allInserts(): array
    {
        return [...Inserts::all($this->inserts), ...Inserts::all($this->postInserts)];
    }

    /** @return list<string> ids of the hardware loops its inserts go through, whether they are on or not */
    public function loops(): array
    {
        $loops = [];
        foreach ($this->allInserts() as $insert) {
            if ($insert instanceof HardwareInsert) {
                $loops[] = $insert->loop;
            }
        }

        return $loops;
    }

    /** What moves a control over time, by its target's text; null where nothing does. */
    public function lane(string $target): ?AutomationLane
    {
        foreach ($this->automation as $lane) {
            if ($lane->target->text() === $target) {
                return $lane;
            }
        }

        return null;
    }

    /** The first send to a channel. */
    public function sendTo(string $channel): ?Send
    {
        foreach ($this->sends as $send) {
            if ($send->to === $channel) {
                return $send;
            }
        }

        return null;
    }

    public function withName(string $name): self
    {
        return $this->copy(name: $name);
    }

    public function withWidth(Width $width): self
    {
        return $this->copy(width: $width);
    }

    public function withSource(Source $source): self
    {
        return $this->copy(source: $source);
    }

    /**
     * The track with other clips; its input stays.
     *
     * @param  list<Clip>  $clips
     */
    public function withClips(array $clips): self
    {
        return $this->withSource($this->source instanceof ClipSource ? $this->source->withClips($clips) : new ClipSource($clips));
    }

    public function withTrim(ChannelTrim $trim): self
    {
        return $this->copy(trim: $trim);
    }

    public function withInsertsOn(bool $on): self
    {
        return $this->copy(insertsOn: $on);
    }

    /** @param  list<Insert>  $inserts */
    public function withRow(Row $row, array $inserts): self
    {
        return $row === Row::Inserts ? $this->copy(inserts: $inserts) : $this->copy(postInserts: $inserts);
    }

    public function withFader(?float $gain): self
    {
        return $this->copy(fader: $gain);
    }

    public function withPan(float $pan): self
    {
        return $this->copy(pan: $pan);
    }

    public function withMute(bool $mute): self
    {
        return $this->copy(mute: $mute);
    }

    public function withSolo(bool $solo): self
    {
        return $this->copy(solo: $solo);
    }

    public function withSoloSafe(bool $soloSafe): self
    {
        return $this->copy(soloSafe: $soloSafe);
    }

    public function withOutput(string $output): self
    {
        return $this->copy(output: $output);
    }

    /** @param  list<Send>  $sends */
    public function withSends(array $sends): self
    {
        return $this->copy(sends: $sends);
    }

    /** The channel with the send of the same id replaced, or with one more. */
    public function withSend(Send $changed): self
    {
        $sends = [];
        $found = false;
        foreach ($this->sends as $send) {
            $found = $found || $send->id === $changed->id;
            $sends[] = $send->id === $changed->id ? $changed : $send;
        }

        return $this->withSends($found ? $sends : [...$sends, $changed]);
    }

    public function withAligned(bool $aligned): self
    {
        return $this->copy(aligned: $aligned);
    }

    public function withClick(?float $click): self
    {
        return $this->copy(click: $click);
    }

    public function withPerformer(?Performer $performer): self
    {
        return $this->copy(performer: $performer);
    }

    /** @param  list<Macro>  $macros */
    public function withMacros(array $macros): self
    {
        return $this->copy(macros: $macros);
    }

    public function withMacro(Macro $changed): self
    {
        return $this->withMacros(array_map(static fn (Macro $macro): Macro => $macro->id === $changed->id ? $changed : $macro, $this->macros));
    }

    public function macro(string $id): ?Macro
    {
        foreach ($this->macros as $macro) {
            if ($macro->id === $id) {
                return $macro;
            }
        }

        return null;
    }

    public function soundSwitch(string $id): ?SoundSwitch
    {
        foreach ($this->sounds as $switch) {
            if ($switch->id === $id) {
                return $switch;
            }
        }

        return null;
    }

    /** @param  list<SoundSwitch>  $sounds */
    public function withSounds(array $sounds): self
    {
        return $this->copy(sounds: $sounds);
    }

    public function withSoundSwitch(SoundSwitch $changed): self
    {
        return $this->withSounds(array_map(static fn (SoundSwitch $switch): SoundSwitch => $switch->id === $changed->id ? $changed : $switch, $this->sounds));
    }

    /** The fade in ms by which it goes from one of its sounds to another; null where none was chosen since. */
    public function soundFade(self $before): ?float
    {
        foreach ($this->sounds as $switch) {
            $was = $before->soundSwitch($switch->id);
            if ($was !== null && $was->chosen !== $switch->chosen) {
                return $switch->fade;
            }
        }

        return null;
    }

    public function withHidden(bool $hidden): self
    {
        return $this->copy(hidden: $hidden);
    }

    public function withFrozen(?Frozen $frozen): self
    {
        return $this->copy(frozen: $frozen);
    }

    public function withOff(bool $off): self
    {
        return $this->copy(off: $off);
    }

    /** @param  list<Version>  $versions */
    public function withVersions(array $versions): self
    {
        return $this->copy(versions: $versions);
    }

    /** @param  list<AutomationLane>  $automation */
    public function withAutomation(array $automation): self
    {
        return $this->copy(automation: $automation);
    }

    /** The channel with one lane put in place of that of the same target, or added; lanes stand in the order of their targets. */
    public function withLane(AutomationLane $lane): self
    {
        $lanes = [...$this->withoutLane($lane->target)->automation, $lane];
        usort($lanes, static fn (AutomationLane $one, AutomationLane $other): int => strcmp($one->target->text(), $other->target->text()));

        return $this->withAutomation($lanes);
    }

    public function withoutLane(AutomationTarget $target): self
    {
        return $this->withAutomation(array_values(array_filter($this->automation, static fn (AutomationLane $lane): bool => $lane->target->text() !== $target->text())));
    }
}
