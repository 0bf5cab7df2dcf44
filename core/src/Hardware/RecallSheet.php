<?php

declare(strict_types=1);

namespace Hafen\Hardware;

use Hafen\Audio\Decibel;
use Hafen\Hardware\Outboard\Rack;
use Hafen\Hardware\Outboard\UnitSpec;
use Hafen\Processor\ParameterKind;
use Hafen\Processor\ParameterSpec;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Session;

/** How each unit of outboard was set for a session, and what differs from where its knobs stand now. */
final readonly class RecallSheet
{
    /** Degrees a knob turns to each side. */
    private const TURN = 135.0;

    /**
     * @param  Session  $session  of any revision
     * @param  ?InterfaceProfile  $now  where the knobs stand; null where that is not known
     */
    public function __construct(private Session $session, private ?InterfaceProfile $now = null)
    {
    }

    /** @return list<array{loop: HardwareLoop, unit: ?UnitSpec, on: list<string>, knobs: list<array{spec: ParameterSpec, noted: ?string, now: ?string, share: ?float, differs: bool}>}> of each loop */
    public function entries(): array
    {
        return array_map(function (HardwareLoop $loop): array {
            $unit = Rack::specs()[$loop->unit ?? ''] ?? null;
            $stands = $unit === null || $this->now === null ? null : $unit->positions($this->now->units[$unit->id]->knobs);

            return [
                'loop' => $loop,
                'unit' => $unit,
                'on' => $this->channels($loop),
                'knobs' => array_map(static function (ParameterSpec $knob) use ($loop, $stands): array {
                    $noted = $loop->recall->knobs[$knob->id] ?? null;
                    $now = $stands[$knob->id] ?? null;

                    return [
                        'spec' => $knob,
                        'noted' => $noted === null ? null : self::text($knob, $noted),
                        'now' => $now === null ? null : self::text($knob, $now),
                        'share' => $noted === null ? null : self::share($knob, $noted),
                        'differs' => $noted !== null && $now !== null && self::text($knob, $noted) !== self::text($knob, $now),
                    ];
                }, $unit->knobs ?? []),
            ];
        }, $this->session->loops);
    }

    public function asText(): string
    {
        $lines = ["Recall sheet: {$this->session->name}", ''];
        foreach ($this->entries() as $entry) {
            $loop = $entry['loop'];
            $lines[] = "{$loop->name}".($entry['unit'] === null || $entry['unit']->name === $loop->name ? '' : " ({$entry['unit']->name})");
            $lines[] = '  on '.($entry['on'] === [] ? 'no channel' : implode(', ', $entry['on']));
            $lines[] = '  '.self::ports($loop);
            foreach ($entry['knobs'] as $knob) {
                $lines[] = sprintf('  %-14s %s%s', $knob['spec']->label, $knob['noted'] ?? 'not noted', $knob['differs'] ? "   stands at {$knob['now']} now" : '');
            }
            if (($loop->recall->notes ?? '') !== '') {
                $lines[] = '  Notes: '.str_replace("\n", "\n         ", (string) $loop->recall?->notes);
            }
            $lines[] = '';
        }

        return implode("\n", count($lines) > 2 ? $lines : [...$lines, 'No loop is defined.', '']);
    }

    /** A page of its own, to be printed. */
    public function asHtml(): string
    {
        $escape = static fn (string $text): string => htmlspecialchars($text, ENT_QUOTES | ENT_SUBSTITUTE);
        $html = '';
        foreach ($this->entries() as $entry) {
            $loop = $entry['loop'];
            $knobs = '';
            foreach ($entry['knobs'] as $knob) {
                $knobs .= '<figure'.($knob['differs'] ? ' class="differs"' : '').'>'.self::dial($knob['share'])
                    .'<figcaption>'.$escape($knob['spec']->label).'<b>'.$escape($knob['noted'] ?? 'not noted').'</b>'
                    .($knob['differs'] ? '<small>now '.$escape((string) $knob['now']).'</small>' : '').'</figcaption></figure>';
            }
            $html .= '<section><h2>'.$escape($loop->name).'</h2><p>'.$escape(($entry['unit']->name ?? 'Unit unknown').' · on '.($entry['on'] === [] ? 'no channel' : implode(', ', $entry['on']))).'</p>'
                .'<p>'.$escape(self::ports($loop)).'</p><div class="face">'.self::ear().'<b class="plate">'.$escape($entry['unit']->name ?? $loop->name).'</b><div class="knobs">'.$knobs.'</div>'.self::ear().'</div>'
                .'<p class="notes">'.nl2br($escape($loop->recall->notes ?? '')).'</p></section>';
        }

        return '<!doctype html><html lang="en"><meta charset="utf-8"><title>'.$escape("Recall sheet: {$this->session->name}").'</title><style>'
            .'body{font:14px/1.4 system-ui,sans-serif;color:#1b2b34;margin:2rem;max-width:50rem}h1{font-size:20px}h2{font-size:16px;margin:0}p{margin:.2rem 0;color:#51666f}'
            .'section{border-top:1px solid #c9d3d1;padding:1rem 0;break-inside:avoid}.face{display:flex;align-items:center;gap:1.4rem;margin:.8rem 0;border:2px solid #1b2b34;border-radius:6px}.face>svg{flex:none;width:22px;height:110px;border:0 solid #1b2b34;border-right-width:1px}'
            .'.face>svg:last-child{border-width:0 0 0 1px}.plate{flex:none;width:6.5rem;letter-spacing:.04em}.knobs{flex:1;display:flex;flex-wrap:wrap;gap:.8rem 1.2rem;padding:.8rem 0}figure{margin:0;width:6rem;text-align:center}'
            .'figcaption b{display:block}figcaption small{display:block;color:#a8432c}.notes{color:#1b2b34;white-space:normal}.differs circle{stroke:#a8432c}figure svg{width:64px;height:56px}'
            .'</style><h1>'.$escape("Recall sheet: {$this->session->name}").'</h1>'.($html === '' ? '<p>No loop is defined.</p>' : $html).'</html>';
    }

    private static function ports(HardwareLoop $loop): string
    {
        return str_replace('hw:', 'out ', $loop->send).', '.str_replace('in:', 'in ', $loop->return)
            .($loop->delay === null ? ', not pinged' : sprintf(', %.1f samples with a buffer of %d', $loop->delay->samples, $loop->delay->buffer))
            .', send '.Decibel::text($loop->sendTrim, 'dB', true).', return '.Decibel::text($loop->returnTrim, 'dB', true).($loop->invert ? ', polarity turned over' : '');
    }

    /** One end of a front plate, with its screws. */
    private static function ear(): string
    {
        $screw = static fn (int $y): string => "<circle cx=\"11\" cy=\"{$y}\" r=\"5\" fill=\"none\" stroke=\"#1b2b34\"/><path d=\"M8 {$y}h6\" stroke=\"#1b2b34\"/>";

        return '<svg viewBox="0 0 22 110" aria-hidden="true">'.$screw(16).$screw(94).'</svg>';
    }

    /** A knob with its scale, and where it points; from lower left to lower right. */
    private static function dial(?float $share): string
    {
        $ray = static function (float $at, float $from, float $to, string $style): string {
            $angle = deg2rad(2 * self::TURN * $at - self::TURN);

            return sprintf('<path d="M%.1f %.1fL%.1f %.1f" %s/>', 32 + $from * sin($angle), 30 - $from * cos($angle), 32 + $to * sin($angle), 30 - $to * cos($angle), $style);
        };
        $scale = implode('', array_map(static fn (int $mark): string => $ray($mark / 10, 22, $mark % 5 === 0 ? 28 : 25, 'stroke="#51666f"'), range(0, 10)));

        return '<svg viewBox="0 0 64 56" aria-hidden="true">'.$scale.'<circle cx="32" cy="30" r="19" fill="none" stroke="#1f6f86" stroke-width="2"/>'.($share === null ? '' : $ray($share, 4, 17, 'stroke="#1b2b34" stroke-width="3"')).'</svg>';
    }

    private static function text(ParameterSpec $knob, float|string|bool $value): string
    {
        return match (true) {
            is_bool($value) => $value ? 'on' : 'off',
            is_string($value) => $knob->choices[$value] ?? $value,
            default => rtrim(rtrim(number_format($value, 1, '.', ''), '0'), '.').($knob->unit === '' ? '' : " {$knob->unit}"),
        };
    }

    /** How far it is turned, 0 to 1. */
    private static function share(ParameterSpec $knob, float|string|bool $value): float
    {
        if ($knob->kind === ParameterKind::Choice) {
            return (int) array_search($value, array_map(strval(...), array_keys($knob->choices)), true) / max(1, count($knob->choices) - 1);
        }

        return is_bool($value) ? (float) $value : max(0.0, min(1.0, ((float) $value - $knob->min) / ($knob->max - $knob->min)));
    }

    /** @return list<string> names of the channels a loop is on */
    private function channels(HardwareLoop $loop): array
    {
        $on = array_filter($this->session->channels, static fn (Channel $channel): bool => in_array($loop->id, $channel->loops(), true));

        return array_values(array_map(static fn (Channel $channel): string => $channel->name, $on));
    }
}
