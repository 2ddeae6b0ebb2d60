#compdef mirkle
# Completion for zsh: the commands first, then what each takes.
_mirkle() {
    local -a commands=(
        'open:open the window on a saved stage, or on files to be taken in'
        'demo:open the window on the demo stage'
        'desktop:put menu entry, icon, file type and manual page in their places'
        'review:review a run against its notes, without the window'
        'passes:was the change right? passes of a stage against each other'
        'read:read notes or timed words alone'
        'listen:when each note was called, from the sound of a run and the book'
    )
    if (( CURRENT == 2 )); then
        _describe -t commands command commands
        _arguments '--version[the version]' '--help[how to use it]' '*:file:_files'
        return
    fi
    local command=$words[2]
    shift words
    (( CURRENT -= 1 ))
    local -a every=('--help[how to use it]' '*:file:_files')
    local -a result=('--crew=[the way the crew writes notes]:file:_files' '--json=[write there]:file:_files' '--quiet[show no progress]')
    local -a words_said=('--calls=[what was said]:file:_files')
    case $command in
        review) _arguments $every $result $words_said '--notes=[the notes]:file:_files' '--any-road[take passes for passes of one stage]' ;;
        passes) _arguments $every $result '*--pass[a pass]:run:_files:notes:_files:calls:_files' '--any-road[take passes for passes of one stage]' ;;
        desktop) _arguments $every '--remove[take away what was put there]' ;;
        read) _arguments $every $result $words_said ;;
        listen) _arguments $every $result $words_said '--notes=[the notes]:file:_files' '--run=[the recording]:file:_files' '--keep=[keep all that was heard]:file:_files' ;;
        *) _arguments $every ;;
    esac
}
_mirkle "$@"
