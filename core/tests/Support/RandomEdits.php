<?php

declare(strict_types=1);

namespace Hafen\Tests\Support;

use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\Split;
use Hafen\Session\Session;

/** Edits somebody might try, sensible or not, on whatever a session holds; as JSON would bring them. */
final class RandomEdits
{
    /** @return array<string, mixed> */
    public static function next(Session $session): array
    {
        $channels = array_map(static fn (Channel $channel): string => $channel->id, $session->channels);
        $inserts = array_merge(...array_map(static fn (Channel $channel): array => $channel->allInserts(), $session->channels));
        $splits = array_values(array_filter($inserts, static fn (Insert $insert): bool => $insert instanceof Split));
        $branches = array_merge(...array_map(static fn (Split $split): array => array_column($split->branches, 'id'), $splits), ...[[]]);
        $sends = array_merge(...array_map(static fn (Channel $channel): array => array_column($channel->sends, 'id'), $session->channels), ...[[]]);
        $insertIds = array_map(static fn (Insert $insert): string => $insert->id(), $inserts);
        $cues = array_values(array_map(static fn (Channel $cue): string => $cue->id, array_filter($session->channels, static fn (Channel $one): bool => $one->kind === ChannelKind::Cue)));
        $macros = array_merge(...array_map(static fn (Channel $channel): array => array_column($channel->macros, 'id'), $session->channels), ...[[]]);
        $noteChannels = array_values(array_map(static fn (Channel $one): string => $one->id, array_filter($session->channels, static fn (Channel $one): bool => $one->kind === ChannelKind::Note)));
        $clip = static fn (): array => ['channel' => self::pick($noteChannels, 'main'), 'clip' => 'c'.mt_rand(1, 2)];
        $channel = static fn (): string => self::pick($channels, 'nobody');
        $some = static fn (): array => array_values(array_unique([$channel(), $channel(), ...(mt_rand(0, 2) === 0 ? [$channel()] : [])]));
        $insert = static fn (): string => self::pick($insertIds, 'i999');
        $branch = static fn (): string => self::pick($branches, 'b999');
        $send = static fn (): string => self::pick($sends, 'n999');
        $macro = static fn (): string => self::pick($macros, 'm999');
        $switches = array_merge(...array_map(static fn (Channel $channel): array => $channel->sounds, $session->channels));
        $switch = $switches === [] ? null : $switches[array_rand($switches)];
        $sound = ['switch' => $switch->id ?? 'w999', 'sound' => self::pick(array_column($switch->sounds ?? [], 'id'), 'k999')];
        $split = static fn (): string => self::pick(array_map(static fn (Split $found): string => $found->id, $splits), 's999');
        $move = static fn (): array => [
            ['target' => "mix:{$insert()}", 'from' => mt_rand(0, 10) / 10, 'to' => mt_rand(0, 10) / 10],
            ['target' => "on:{$insert()}", 'from' => mt_rand(0, 1), 'to' => mt_rand(0, 1)],
            ['target' => "parameter:{$insert()}:gain", 'from' => mt_rand(-24, 24), 'to' => mt_rand(-24, 24), 'curve' => mt_rand(-10, 10) / 10],
            ['target' => "send:{$send()}", 'from' => null, 'to' => mt_rand(-40, 12)],
            ['target' => "branch:{$branch()}", 'from' => mt_rand(-40, 12), 'to' => null],
            ['target' => "selector:{$split()}", 'from' => mt_rand(0, 10) / 10, 'to' => mt_rand(0, 10) / 10],
        ][mt_rand(0, 5)];
        $spot = static fn (): array => mt_rand(0, 2) === 0 && $branches !== []
            ? ['branch' => $branch(), 'at' => mt_rand(0, 3)]
            : ['row' => mt_rand(0, 3) === 0 ? 'postInserts' : 'inserts', 'at' => mt_rand(0, 4)];
        $gain = mt_rand(0, 9) === 0 ? null : mt_rand(-400, 60) / 10;
        $tap = ['source', 'pre-fader', 'post-fader'][mt_rand(0, 2)];
        $yes = mt_rand(0, 1) === 1;

        $edits = [
            fn () => ['type' => 'add-channel', 'kind' => ['track', 'group', 'return', 'cue'][mt_rand(0, 3)], 'name' => 'New'],
            fn () => ['type' => 'add-channel', 'kind' => 'note', 'name' => 'Keys'],
            fn () => ['type' => 'put-note-clip', ...$clip(), 'clip' => ['id' => 'c'.mt_rand(1, 2), 'start' => mt_rand(0, 9), 'length' => mt_rand(1, 99), 'notes' => [[mt_rand(0, 99), 5, mt_rand(0, 127), 90]]]],
            fn () => ['type' => 'add-notes', 'channel' => self::pick($noteChannels, 'main'), 'notes' => [[mt_rand(0, 9999), mt_rand(1, 5000), 60, 90]], 'controls' => [[mt_rand(0, 9999), 64, 127]]],
            fn () => ['type' => 'set-note-controls', ...$clip(), 'controller' => $yes ? 64 : 128, 'controls' => [[mt_rand(0, 20), mt_rand(0, 127)]]],
            fn () => ['type' => 'set-notes', ...$clip(), 'notes' => [[mt_rand(0, 20), 9, 60, mt_rand(1, 127)], [mt_rand(0, 20), 9, 64, 1]]],
            fn () => ['type' => 'move-note-clip', ...$clip(), 'start' => mt_rand(0, 500), 'length' => mt_rand(1, 500)],
            fn () => ['type' => 'quantise-notes', ...$clip(), 'grid' => 12],
            fn () => ['type' => 'transpose-notes', ...$clip(), 'by' => mt_rand(-12, 12)],
            fn () => ['type' => 'remove-note-clip', ...$clip()],
            fn () => ['type' => 'add-insert', 'channels' => [$channel()], 'processor' => ['arpeggio', 'synthesiser'][mt_rand(0, 1)], ...$spot()],
            fn () => ['type' => 'add-channel', 'name' => 'Tap', 'tap' => ['channel' => $channel(), 'tap' => $tap]],
            fn () => ['type' => 'set-output', 'channels' => $some(), 'output' => mt_rand(0, 6) === 0 ? ['none', 'hw:1-2', 'hw:3-4'][mt_rand(0, 2)] : $channel()],
            fn () => ['type' => 'set-source', 'channel' => $channel(), 'source' => ['type' => 'tap', 'channel' => $channel(), 'tap' => $tap]],
            fn () => ['type' => 'group-channels', 'channels' => $some()],
            fn () => ['type' => 'remove-channels', 'channels' => [$channel()]],
            fn () => ['type' => 'add-send', 'channels' => $some(), 'to' => $channel(), 'gain' => $gain, 'tap' => $tap],
            fn () => ['type' => 'put-sends', 'sends' => [['channel' => $channel(), 'to' => $channel(), 'gain' => $gain], ['channel' => $channel(), 'to' => $channel(), 'on' => $yes]]],
            fn () => ['type' => 'copy-sends', 'sends' => [$send(), $send()], 'channels' => $some()],
            fn () => ['type' => 'set-send-gain', 'sends' => [$send()], 'gain' => $gain],
            fn () => ['type' => 'move-sends', 'sends' => [$send(), $send()], 'by' => mt_rand(-60, 60) / 10],
            fn () => ['type' => 'set-send-tap', 'sends' => [$send()], 'tap' => $tap],
            fn () => ['type' => 'set-send-on', 'sends' => [$send()], 'on' => $yes],
            fn () => ['type' => 'set-send-pan', 'sends' => [$send()], 'pan' => mt_rand(-100, 100) / 100],
            fn () => ['type' => 'remove-sends', 'sends' => [$send()]],
            fn () => ['type' => 'send-to-new-return', 'channels' => $some(), 'processor' => 'gain'],
            fn () => ['type' => 'copy-mix-to-cue', 'cue' => $channel()],
            fn () => ['type' => 'set-performer', 'cue' => self::pick($cues, $channel()), 'tracks' => mt_rand(0, 4) === 0 ? null : $some()],
            fn () => ['type' => 'set-performer-gain', 'cue' => self::pick($cues, $channel()), 'part' => ['me', 'band'][mt_rand(0, 1)], 'gain' => $gain],
            fn () => ['type' => 'add-macro', 'channel' => $channel(), 'name' => 'Bite', 'switch' => $yes],
            fn () => ['type' => 'set-macro-move', 'macro' => $macro(), ...$move()],
            fn () => ['type' => 'set-macro-move', 'macro' => $macro(), ...$move()],
            fn () => ['type' => 'turn-macro', 'macro' => $macro(), 'value' => mt_rand(0, 4) / 4],
            fn () => ['type' => 'remove-macro-move', 'macro' => $macro(), 'target' => $move()['target']],
            fn () => ['type' => 'remove-macro', 'macro' => $macro()],
            fn () => ['type' => 'rename-macro', 'macro' => $macro(), 'name' => 'Air'],
            fn () => ['type' => 'add-sound-switch', 'channel' => $channel(), 'name' => 'Tone', 'sound' => 'Clean'],
            fn () => ['type' => 'add-sound', 'switch' => $sound['switch'], 'name' => 'Driven'],
            fn () => ['type' => 'choose-sound', ...$sound],
            fn () => ['type' => 'choose-sound', ...$sound],
            fn () => ['type' => 'set-sound-notes', 'switch' => $sound['switch'], 'notes' => $yes ? ['channel' => $channel(), 'lowest' => mt_rand(0, 127)] : null],
            fn () => ['type' => 'step-sound', 'switch' => $sound['switch'], 'to' => $yes ? 'next' : 'previous'],
            fn () => ['type' => 'keep-sound', ...$sound],
            fn () => ['type' => 'rename-sound', ...$sound, 'name' => 'Lead'],
            fn () => ['type' => 'remove-sound', ...$sound],
            fn () => ['type' => 'remove-sound-switch', 'switch' => $sound['switch']],
            fn () => ['type' => 'set-sound-switch', 'switch' => $sound['switch'], ...($yes ? ['name' => 'Tone 2'] : ['fade' => mt_rand(0, 500)])],
            fn () => ['type' => 'set-automation', 'channel' => $channel(), 'target' => $yes ? "macro:{$macro()}" : "sound:{$sound['switch']}", 'points' => [['at' => 0, 'value' => 0], ['at' => 100, 'value' => 1]]],
            fn () => ['type' => 'set-automation', 'channel' => $channel(), 'target' => $yes ? "branch:{$branch()}" : "selector:{$split()}", 'points' => [['at' => 0, 'value' => 0], ['at' => 100, 'value' => 1]]],
            fn () => ['type' => 'set-automation', 'channel' => $channel(), 'target' => "on:{$insert()}", 'points' => [['at' => 0, 'value' => 0], ['at' => 100, 'value' => 1]]],
            fn () => ['type' => 'add-selector', 'split' => $split()],
            fn () => ['type' => 'turn-selector', 'split' => $split(), 'value' => mt_rand(0, 10) / 10],
            fn () => ['type' => 'set-selector-notes', 'split' => $split(), 'notes' => $yes ? ['channel' => $channel(), 'value' => 'velocity', 'from' => 1, 'to' => mt_rand(2, 127), 'glide' => mt_rand(0, 50)] : null],
            fn () => ['type' => 'step-selector', 'split' => $split(), 'to' => $yes ? 'next' : 'previous'],
            fn () => ['type' => 'set-selector', 'split' => $split(), ...($yes ? ['fade' => 'linear'] : ['rings' => false])],
            fn () => ['type' => 'set-selector-range', 'branch' => $branch(), 'range' => $yes ? null : ['from' => mt_rand(0, 4) / 10, 'to' => mt_rand(5, 10) / 10, 'fadeFrom' => 0.1, 'fadeTo' => 0.2]],
            fn () => ['type' => 'set-branch-zones', 'branch' => $branch(), 'keys' => $yes ? null : ['from' => 10, 'to' => mt_rand(10, 127)], 'velocities' => null],
            fn () => ['type' => 'remove-selector', 'split' => $split()],
            fn () => ['type' => 'add-split', 'channel' => $channel(), ...$spot(), 'by' => ['copies', 'left-right', 'mid-side'][mt_rand(0, 2)]],
            fn () => ['type' => 'wrap-in-branch', 'inserts' => [$insert()]],
            fn () => ['type' => 'add-branch', 'split' => $split()],
            fn () => ['type' => 'remove-branch', 'branch' => $branch()],
            fn () => ['type' => 'set-branch-gain', 'branches' => [$branch()], 'gain' => $gain],
            fn () => ['type' => 'set-branch-mute', 'branches' => [$branch()], 'mute' => $yes],
            fn () => ['type' => 'set-branch-solo', 'branches' => [$branch()], 'solo' => $yes],
            fn () => ['type' => 'set-branch-pan', 'branches' => [$branch()], 'pan' => mt_rand(-100, 100) / 100],
            fn () => ['type' => 'set-branch-polarity', 'branches' => [$branch()], 'invert' => $yes],
            fn () => ['type' => 'keep-level', 'split' => $split()],
            fn () => ['type' => 'dissolve-split', 'split' => $split(), 'keep' => $branch()],
            fn () => ['type' => 'pull-out-branch', 'branch' => $branch()],
            fn () => ['type' => 'add-insert', 'channels' => [$channel()], 'processor' => 'gain', 'parameters' => ['gain' => (float) mt_rand(-9, 6)], ...$spot()],
            fn () => ['type' => 'move-insert', 'insert' => $insert(), 'channel' => $channel(), ...$spot()],
            fn () => ['type' => 'copy-inserts', 'inserts' => [$insert()], 'channels' => [$channel()], ...$spot()],
            fn () => ['type' => 'swap-inserts', 'insert' => $insert(), 'with' => $insert()],
            fn () => ['type' => 'remove-inserts', 'inserts' => [$insert()]],
            fn () => ['type' => 'set-insert-on', 'inserts' => [$insert()], 'on' => false],
            fn () => ['type' => 'set-fader', 'channels' => $some(), 'gain' => $gain],
            fn () => ['type' => 'set-mute', 'channels' => [$channel()], 'mute' => $yes],
            fn () => ['type' => 'set-solo', 'channels' => [$channel()], 'solo' => mt_rand(0, 3) === 0],
            fn () => ['type' => 'set-pan', 'channels' => [$channel()], 'pan' => mt_rand(-100, 100) / 100],
            fn () => ['type' => 'set-aligned', 'channels' => [$channel()], 'aligned' => mt_rand(0, 3) > 0],
            fn () => ['type' => 'move-channel', 'channel' => $channel(), 'to' => mt_rand(0, 10)],
            fn () => ['type' => 'move-clip-gains', 'channels' => $some(), 'by' => mt_rand(-60, 60) / 10],
            fn () => ['type' => 'several', 'label' => 'Two', 'edits' => [['type' => 'set-fader', 'channels' => $some(), 'gain' => $gain], ['type' => 'set-pan', 'channels' => $some(), 'pan' => 0.5]]],
            fn () => ['type' => 'set-automation', 'channel' => $channel(), 'target' => ['fader', 'pan', 'mute'][mt_rand(0, 2)], 'points' => [['at' => 10, 'value' => 0], ['at' => mt_rand(20, 200), 'value' => 1, 'curve' => 0.5]]],
            fn () => ['type' => 'set-automation', 'channel' => $channel(), 'target' => mt_rand(0, 1) === 0 ? 'send:'.$send() : 'mix:'.$insert(), 'points' => [['at' => 0, 'value' => 0.5], ['at' => 100, 'value' => 1]]],
            fn () => ['type' => 'fade', 'channels' => $some(), 'direction' => mt_rand(0, 1) === 0 ? 'in' : 'out', 'from' => mt_rand(0, 50), 'to' => mt_rand(60, 200)],
            fn () => ['type' => 'add-insert', 'channels' => [$channel()], 'processor' => 'follower', ...$spot()],
            fn () => ['type' => 'set-sidechain', 'insert' => $insert(), 'sidechain' => mt_rand(0, 3) === 0 ? null : ['channel' => $channel(), 'tap' => $tap]],
        ];

        return $edits[array_rand($edits)]();
    }

    /** @param  list<string>  $of */
    private static function pick(array $of, string $otherwise): string
    {
        return $of === [] ? $otherwise : $of[array_rand($of)];
    }
}
