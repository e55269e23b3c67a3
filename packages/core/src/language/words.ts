/** The words that say what a line is, in English, Spanish, French, German, Portuguese, Italian, Dutch, Polish, Russian, Ukrainian and Turkish. */

const any = (words: string): string =>
  words
    .trim()
    .split(/\n\s*/)
    .map((row) => row.trim())
    .filter(Boolean)
    .join('|');

/** Announces the key. */
export const ANSWER =
  any(`r(?=\\s*:)|ms(?=\\s*:)|correct answers?|right answers?|accept(?=\\s*:)|accepted answers?|acceptable answers?|expected answers?|answers?|ans\\.?|resp\\.?|r[ée]p\\.?|risp\\.?|antw\\.?|отв\\.?|відп\\.?|correct options?|(?:correct |right )?order|(?:correct |right )?sequence|correct|key|solution
  respuestas? correctas?|respuestas?|soluci[oó]n|clave|bonnes? r[ée]ponses?|r[ée]ponses? correctes?|r[ée]ponses? attendues?|r[ée]ponses?|richtige antworten|richtige antwort|antworten|antwort|l[öo]sung|richtig
  respostas? corretas?|respostas? certas?|respostas?|gabarito|risposte corrette|risposta corretta|risposta esatta|risposte|risposta|soluzione|juiste antwoord(?:en)?|correcte? antwoord(?:en)?|goede antwoord(?:en)?|antwoord(?:en)?
  poprawn[ea] odpowied[zź](?:i)?|poprawne|prawid[łl]owe|lsg\\.?|prawid[lł]ow[ea] odpowied[zź](?:i)?|odpowied[zź](?:i)?|odp\\.?|klucz|правильные ответы|правильный ответ|верный ответ|ответы|ответ|правильна відповідь|правильні відповіді|відповіді|відповідь
  do[ğg]ru cevap|do[ğg]ru yan[ıi]t|cevaplar|cevap|yan[ıi]t
  r[ăa]spuns(?:ul|uri)?(?: corecte?)?|spr[áa]vn[áaéeě] odpov[ěe][ďd]|odpov[ěe][ďd]i?|spr[áa]vn[áaéeě]|helyes v[áa]lasz|v[áa]lasz(?:ok)?|megold[áa]s|r[äa]tt svar|korrekt svar|svar|riktig svar|facit|oikea vastaus|vastaus|to[čc]an odgovor|odgovori?|верен отговор|отговори?|back|rückseite|verso|reverso|retro|dos|achterkant|tył|απαντήσεις|απαντήσεις|απάντηση|σωστή απάντηση|resposta correcta|respostes?
  kunci jawaban|jawaban(?: (?:yang )?(?:benar|tepat))?|jawapan(?: betul)?|kunci|đáp án(?: đúng)?|trả lời|câu trả lời|เฉลย|คำตอบ(?:ที่ถูก(?:ต้อง)?)?|ตอบ|正确答案|參考答案|参考答案|正確答案|答案|标准答案|正解|解答|答え|答|정답|답안|답|सही उत्तर|उत्तर|सही जवाब|जवाब|সঠিক উত্তর|উত্তর|சரியான விடை|விடை|பதில்|సరైన సమాధానం|సమాధానం|జవాబు|बरोबर उत्तर|درست جواب|صحیح جواب|جواب(?: صحیح| درست)?|پاسخ(?: صحیح| درست)?|گزینه صحیح|الإجابة(?: الصحيحة)?|الاجابة(?: الصحيحة)?|الجواب(?: الصحيح)?|الحل|תשובה(?: ה?נכונה)?|התשובה(?: הנכונה)?|תשובות
  jibu(?: sahihi)?|majibu|(?:ang )?(?:tamang |wastong )?sagot|antwoord|korrekte antwort|rigtigt svar|rette svar|svaret|fasit|rettsvar|rétt svar|svar|õige vastus|vastus|pareiz[āa] atbilde|atbildes?|teisingas atsakymas|atsakym(?:as|ai)|spr[áa]vna odpove[ďd]|odpove[ďd]e?|pravilni odgovor|pravilen odgovor|ta[čc]an odgovor|ispravan odgovor|одговори?|тачан одговор|точен одговор|исправан одговор|правилният отговор|правилен отговор|правильны адказ|адказ|p[ëe]rgjigj(?:a|e)(?: e sakt[ëe])?|erantzun(?:a| zuzena)|ateb(?:ion)?|freagra[íi]?|პასუხი|სწორი პასუხი|պատասխան|ճիշտ պատասխան|дұрыс жауап|жауап|to‘?g‘?ri javob|javob|d[üu]zg[üu]n cavab|cavab|зөв хариулт|хариулт|sahihi|karrekte antwoord|korrekte antwoord`);

/** A model answer is shown to the marker; it is no list of accepted wordings. */
export const MODEL_ANSWER = any(
  `exemple de r[ée]ponse|r[ée]ponses? possibles?|beispielantwort|m[öo]gliche antwort|ejemplo de respuesta|posible respuesta|respuesta posible|esempio di risposta|possibile risposta|exemplo de resposta|poss[íi]vel resposta|voorbeeld van een antwoord|mogelijk antwoord|przyk[łl]ad odpowiedzi|(?:model|sample|suggested|possible|example|exemplar) (?:answers?|responses?)|respuesta modelo|r[ée]ponse mod[èe]le|musterl[öo]sung|musterantwort|erwartungshorizont|resposta modelo|resposta esperada|risposta modello|modelantwoord|voorbeeldantwoord|przyk[łl]adowa odpowied[zź]|пример ответа|образец ответа|зразок відповіді|[öo]rnek cevap|förslag på svar|svarsförslag|förslag till svar|forslag til svar|eksempelsvar|ehdotettu vastaus|mallivastaus`,
);
/** Announces how an essay is marked. */
export const RUBRIC = any(
  `(?:marking |grading |scoring )?rubrics?|mark(?:ing)? scheme|grading (?:notes?|criteria)|marking (?:notes?|criteria|guide)|notes? for (?:the )?(?:marker|grader|teacher)s?|r[úu]brica|criterios|bar[èe]me|crit[èe]res|bewertung(?:sraster)?|crit[ée]rios|griglia|criteri|beoordeling|kryteria|критерии|критерії|puanlama`,
);
/** A key that says there is no one answer. */
export const VARIES =
  /^[([]?\s*(?:(?:mark(?:ing|er'?s?)?|grading|scoring) (?:notes?|guide|criteria|grid|scheme)\s*[.:]|answers? (?:will |may |can )?var(?:y|ies)|see (?:the |our |your )?(?:mark(?:ing)? scheme|rubric|(?:writing |marking |assessment )?(?:grid|criteria|guide)|model answer|notes?|next page|overleaf)|individual answers?|own answers?|(?:his|her|their|your) own|own (?:words|drawing|ideas?|opinion|examples?|text|work)|free|open|student'?s? own (?:answer|words)|any (?:reasonable|sensible) answer|teacher'?s? (?:discretion|judg)|respuestas? (?:abierta|libre|personal|variad)|réponses? (?:libre|personnelle|variable)|individuelle|offen|resposta (?:aberta|pessoal|livre)|risposta (?:aperta|libera|personale)|eigen antwoord|odpowied[źz]\p{L}* własn|własn[ae]|r[ăa]spuns (?:liber|deschis)|răspunsuri variate|libre|persoonlijk|svar varierar|ответы? (?:свободн|могут)|відповід\w+ (?:довільн|можуть)|cevaplar değiş)/iu;
/** A text to read, not to answer. */
export const INFORMATION =
  /^\s*[[(]?\s*(?:information(?: only)?|for (?:your )?information(?: only)?|info(?: only)?|read only|text only|no answer (?:needed|required)|just read|nur (?:zur )?information|hinweistext|solo (?:informaci[óo]n|lectura)|para leer|pour information|à lire|solo (?:informazione|lettura)|apenas informa[çc][ãa]o|só para ler|ter informatie|alleen lezen|tylko do przeczytania|informacja|для информации|для інформації|bilgi)(?:\s*[-–—,;/]\s*[^\])]{0,40})?\s*(?:[\])]\s*[:.–—-]?|:)\s*/iu;

/** Heads a list of keys. */
export const KEY_HEADING =
  any(`r(?=\\s*:)|resp\\.?|antw\\.?|rép\\.?|risp\\.?|odp\\.?|отв\\.?|відп\\.?|lös\\.?|sol\\.?|cev\\.?|(?:teacher'?s?'? |marking )?answer keys?|answers?(?: and explanations)?|(?:teacher'?s?'? )?keys?|marking keys?|solutions?|mark(?:ing)? schemes?|correct answers|answer sheet|answer list|ans\\.?
  respuestas(?: correctas)?|soluciones|claves?(?: de respuestas)?|solucionario|corrig[ée](?:s)?|r[ée]ponses|solutions|l[öo]sungen|l[öo]sungsschl[üu]ssel|antworten|respostas|gabarito|chave(?: de respostas)?|risposte|soluzioni|chiave|chiave delle risposte
  antwoorden|antwoordmodel|modelantwoord(?:en)?|antwoordenblad|uitwerkingen|musterlösung(?:en)?|auflösung(?:en)?|lösungsblatt|corrigé type|hoja de respuestas|sleutel|odpowiedzi|klucz(?: odpowiedzi)?|ответы|ключ(?:и)?(?: ответов)?|правильные ответы|відповіді|ключ(?:і)?(?: відповідей)?|правильні відповіді|cevaplar|cevap anahtar[ıi]|yan[ıi]t anahtar[ıi]
  barem(?: de (?:corectare|notare)(?: [șs]i notare)?)?|r[ăa]spunsuri(?: corecte)?|rezolv[ăa]ri|(?:spr[áa]vn[éeě] )?odpov[ěe]di|[řr]e[šs]en[íi]|rie[šs]eni[ae]|kl[íi][čc](?: odpov[ěe]d[íi])?|megold[áa]s(?:ok|[óo]kulcs)?|facit|r[äa]tt svar|svar|fasit|rettenøkkel|vastaukset|oikeat vastaukset|rje[šs]enja|отговори|απαντήσεις|solucions|verbetersleutel|correctiesleutel|correctiemodel|griglia di correzione|corre[çc][ãa]o|corre[çc][õo]es|grelha de corre[çc][ãa]o|solu[çc][õo]es|pauta de correcci[óo]n|lösungsteil|erwartungshorizont|schema odpowiedzi|rozwi[ąa]zania
  (?:daftar )?kunci jawaban|jawaban|skema jawapan|jawapan|đáp án|hướng dẫn chấm|เฉลย|参考答案|答案(?:与解析|及解析|解析)?|標準答案|正解|解答|答え|정답(?: ?및 ?해설|표)?|उत्तर(?:माला| कुंजी)?|উত্তর(?:মালা|পত্র)?|விடைகள்|جوابات|پاسخنامه|پاسخ‌نامه|کلید|الإجابات|نموذج الإجابة|مفتاح الإجابة|الأجوبة|תשובות|מפתח תשובות|מחוון|majibu|(?:mga )?(?:tamang )?sagot|susi sa pagwawasto|facitliste|retteark|rettevejledning|løsninger|fasit|lösningar|facit|oikeat vastaukset|ratkaisut|vastused|atbildes|atsakymai|odpovede|kl[úu][čc](?: odpoved[íi])?|odgovori|re[šs]itve|rješenja|решења|решения|одговори|ключ|përgjigjet|zgjidhjet|erantzunak|atebion|პასუხები|պատասխաններ|жауаптар|javoblar|cavablar|solucionari|clau de respostes|claus`);

/** The word for a question in front of its number. */
export const QUESTION = any(
  'question|q|s(?=\\.\\s?\\d)|zad\\.?|aufg\\.?|task|problem|item|pregunta|question|frage|aufgabe|pergunta|quest[aã]o|domanda|vraag|pytanie|zadanie|вопрос|задание|питання|запитання|soru|soal|pertanyaan|soalan|câu(?: hỏi)?|ข้อ(?:ที่)?|คำถาม(?:ที่)?|题目|题|問題|問|문제|문항|질문|प्रश्न|सवाल|প্রশ্ন|கேள்வி|வினா|ప్రశ్న|سوال|پرسش|السؤال|سؤال|שאלה|swali(?: la)?|(?:ika-?)?tanong|fr[åa]ga|uppgift|spørgsm[åa]l|opgave|spørsm[åa]l|oppgave|spurning|kysymys|teht[äa]v[äa]|k[üu]simus|jaut[āa]jums|klausimas|ot[áa]zka|k[ée]rd[ée]s|[îi]ntrebarea?|pitanje|vpra[šs]anje|питање|прашање|въпрос|задача|задатак|пытанне|pyetja|galdera|cwestiwn|ceist|ερώτηση|θέμα|კითხვა|հարց|сұрақ|savol|sual|асуулт|vraag',
);

/** True, in words. */
export const TRUE = any(
  'true|verdadero|cierto|correcto|vrai|wahr|richtig|verdadeiro|certo|vero|waar|juist|prawda|верно|правда|вірно|правильно|doğru|adev[ăa]rat|corect|pravda|pravdiv[éýá]|spr[áa]vn[ěe]|igaz|sant|sann|sandt|oikein|totta|to[čc]no|istina|вярно|σωστό|cert|benar|betul|đúng|ถูก(?:ต้อง)?|正确|正確|对|對|正|正しい|참|옳음|맞음|सही|सत्य|সত্য|সঠিক|ঠিক|சரி|నిజం|درست|صحیح|صح|صحيح|صواب|נכון|kweli|tama|sandt|rigtigt?|korrekt|riktig|r[äa]tt|oikein|tosi|[õo]ige|t[õo]ene|patiess|pareizi|tiesa|teisinga|pravda|to[čc]no|ta[čc]no|dr[žz]i|тачно|точно|правда|e v[ëe]rtet[ëe]|egia|cywir|სწორია|ճիշտ է|дұрыс|рас|to‘?g‘?ri|d[üu]zg[üu]n|үнэн|σωστή|waar|vero',
);
/** False, in words. */
export const FALSE = any(
  'false|falso|incorrecto|faux|falsch|l[eo]ž|errado|onwaar|niet waar|onjuist|fałsz|неверно|ложь|неправда|невірно|неправильно|yanlış|fals|gre[șs]it|nepravda|nepravdiv[éýá]|nespr[áa]vn[ěe]|hamis|falskt|falsk|usant|v[äa][äa]rin|neto[čc]no|грешно|невярно|λάθος|fout|fals[ao]|nieprawda|błąd|salah|palsu|sai|ผิด|错误|錯誤|错|錯|误|誤|間違い|誤り|거짓|틀림|옳지 않음|गलत|असत्य|মিথ্যা|ভুল|தவறு|తప్పు|نادرست|غلط|خطأ|خاطئ|לא נכון|שגוי|si kweli|uongo|mali|forkert|usandt?|urigtigt?|feil|fel|uriktig|ep[äa]tosi|vale|v[äa][äa]r|aplams|nepareizi|netiesa|klaidinga|nepravda|neto[čc]no|neta[čc]no|ne dr[žz]i|нетачно|неточно|погрешно|e gabuar|gezurra|anghywir|მცდარია|սխալ է|бұрыс|жалған|noto‘?g‘?ri|yanl[ıi]ş|s[əe]hv|худал|λανθασμένο|onwaar',
);
/** Letters that may stand for true: which, the draft tells. */
export const TRUE_SHORT = new Set(['t', 'v', 'r', 'w', 'p', 'd', 'в', 'п']);
/** Letters that may stand for false: which, the draft tells. */
export const FALSE_SHORT = new Set(['f', 'o', 'n', 'y', 'н', 'х']);

/** Announces feedback or a reason. */
export const FEEDBACK =
  any(`feedback|explanation|rationale|reason(?:ing)?|why|because|note|comment|explicaci[oó]n|retroalimentaci[oó]n|justificaci[oó]n|comentario|explication|justification|commentaire|pourquoi
  erkl[äa]rung|begr[üu]ndung|r[üu]ckmeldung|hinweis zur l[öo]sung|warum|explica[çc][aã]o|coment[aá]rio|justificativa|porqu[eê]|spiegazione|motivazione|commento|perch[ée]|uitleg|toelichting|waarom|feedback
  wyja[sś]nienie|uzasadnienie|komentarz|пояснение|объяснение|комментарий|почему|пояснення|обґрунтування|коментар|чому|a[çc][ıi]klama|neden
  r[ée]troaction|remarks?(?: for \\p{L}+)?|comments? for \\p{L}+|bemerkung|devoluci[óo]n|observaci[óo]n|remarque|anmerkung|kommentar|hinweis|resolu[çc][ãa]o|justifica[çc][ãa]o|cotaci[óo]n|motivo|feedback correto|motivering|verklaring|uwaga|om[óo]wienie|explica[țt]ie|vysv[ěe]tlen[íi]|magyar[áa]zat|f[öo]rklaring|forklaring|selitys|obja[šs]njenje|обяснение|εξήγηση|explicaci[óo]
  pembahasan|penjelasan|alasan|huraian|giải thích|lời giải|hướng dẫn|คำอธิบาย|อธิบาย|เหตุผล|解析|解释|解釋|分析|理由|解説|説明|해설|풀이|설명|이유|व्याख्या|स्पष्टीकरण|कारण|ব্যাখ্যা|விளக்கம்|వివరణ|وضاحت|توضیح(?:ات)?|دلیل|الشرح|التفسير|التعليل|شرح|السبب|הסבר|נימוק|maelezo|ufafanuzi|paliwanag|forklaring|begrundelse|f[öo]rklaring|motivering|begrunnelse|skýring|selitys|perustelu|selgitus|paskaidrojums|pai[šs]kinimas|paaiškinimas|vysvetlenie|zd[ôo]vodnenie|od[ůu]vodn[ěe]n[íi]|indokl[áa]s|explicatie|razlaga|obrazlo[žz]enje|obja[šs]njenje|објашњење|објаснување|образложение|тлумачэнне|shpjegim(?:i)?|azalpena|eglurhad|m[íi]ni[úu]|განმარტება|բացատրություն|түсіндірме|izoh|izah|тайлбар|verduideliking|επεξήγηση|αιτιολόγηση|coment(?:ari|[áa]rio)|explica[cç][ãa]o|explicación`);
/** Announces a hint. */
export const HINT = any(
  'hints?|tip|clue|pista|indice|tipp|hinweis|dica|suggerimento|indizio|aanwijzing|wskaz[oó]wka|podpowied[zź]|подсказка|підказка|ipucu|petunjuk|gợi ý|คำใบ้|提示|ヒント|힌트|संकेत|تلميح|راهنمایی|רמז|dokezo|ledtr[åa]d|vihje|n[áa]pov[ěe]da|n[áa]poveda|seg[íi]ts[ée]g|indiciu|naznaka|съвет|υπόδειξη',
);
/** The word for points. */
export const POINTS = any(
  'points?|pts?\\.?|marks?|score|worth|puntos?|pts|punkte?|pontos?|punti|punto|punten|punt|pkt\\.?|punkt(?:y|[oó]w)|балл(?:ы|ов|а)?|бал(?:и|ів|а)?|puan|valor|puncte?|bod(?:y|ů|ov)?|pont|po[äa]ng|poeng|pistett[äa]|pistet?t?[äa]?|bodov?a?|poin|nilai|markah|điểm|คะแนน|分|점|点|अंक|নম্বর|மதிப்பெண்|نمبر|نمره|درجات|درجة|נקודות|נק׳?|alama|puntos|stig|punkti|taškai|taškas|t[oò]čk[ae]?|поена?|поени|pik[ëe]|puntu|pwynt|точки|μονάδες|μονάδα|cota[çc][ãa]o|Pkte?\\.?|BE',
);
/** Announces tags. */
export const TAGS = any('tags?|topics?|category|etiquetas?|tema|mots-cl[ée]s|schlagworte?|thema|etichette|trefwoorden|tagi|теги|теги|etiketler|konu');
/** Announces a learning outcome. */
export const OUTCOME = any(
  'outcomes?|objectives?|learning objectives?|skills?|standard|objetivos?|objectifs?|lernziele?|obiettiv[oi]|leerdoel(?:en)?|cele?|цель|мета|kazan[ıi]m',
);
/** Announces a difficulty. */
export const DIFFICULTY = any(
  'difficulty|diff|level|dificultad|nivel|difficult[ée]|niveau|schwierigkeit|dificuldade|n[íi]vel|difficolt[àa]|livello|moeilijkheid|trudno[sś][cć]|сложность|складність|zorluk',
);
/** Says how difficult a question is, alone in brackets in front of it. From memory. */
export const LEVEL =
  /^(?:[\p{So}\s]{0,3})(?:(?:difficulty|level|nivel|niveau|schwierigkeit|livello|nível|сложность|zorluk)\s*:?\s*)?(?:(?:very )?(?:easy|hard|difficult)|medium|moderate|challenging|basic|intermediate|advanced|(?:sehr )?(?:leicht|einfach|schwer|schwierig)|mittel(?:schwer)?|f[áa]cil|media|medio|intermedi[oa]|dif[íi]cil|facile|moyen(?:ne)?|difficile|m[ée]di[oa]|ma[kc]k?elijk|gemiddeld|moeilijk|łatw[aey]|średni[ae]?|trudn[aey]|л[её]гк(?:ий|ая|ое)|средн(?:ий|яя|ее)|сложн(?:ый|ая|ое)|трудн(?:ый|ая|ое)|легк(?:е|а)|середн(?:ій|я|є)|складн(?:ий|а|е)|kolay|orta|zor)$/iu;
/** Announces a level of Bloom's taxonomy. */
export const BLOOM = any("bloom(?:'s)?(?: level| taxonomy)?|cognitive level");
/** Announces a depth of knowledge. */
export const DEPTH = any('dok|depth of knowledge|depth');
/** Announces a time limit. */
export const TIME = any('time(?: limit)?|tiempo|temps|zeit|tempo|tijd|czas|время|час|s[üu]re');

/** The word for a part in front of its number or letter. */
export const PART = any(
  'part|section|round|runde|ronda|ronde|exercise|exercice|ejercicio|exerc[ií]cio|esercizio|[üu]bung|oefening|ćwiczenie|упражнение|вправа|alıştırma|grupo|groupe|gruppe|secci[oó]n|parte|partie|teil|abschnitt|sec[çc][aã]o|sezione|deel|onderdeel|cz[eę][sś][cć]|часть|раздел|частина|subiectul|partea|exerci[țt]iul|[čc][áa]st|[úu]loha|cvi[čc]en[íi]|r[ée]sz|feladat|avsnitt|del(?=\\s+(?:[A-H]|[IVX]{1,4}|\\d))|osa|teht[äa]v[äa]|zadatak|дял|част|μέρος|bagian|phần|ตอนที่|第[一二三四五六七八九十\\d]+(?:部分|节|大题)|第\\d+部|제\\d+부|भाग|खण्ड|বিভাগ|பகுதி|القسم|الجزء|חלק|sehemu|bahagian|bahagi|afsnit|kafli|daļa|dalis|časť|deo|део|pjesa|rhan|ნაწილი|մաս|бөлім|qism|hissə|ενότητα|secció|bloco|bloque|bloc|blok|opdracht(?:en)?|taak|zadania? zamkni[ęe]te|zadania? otwarte|serie|série|chapter|unit|розділ|b[öo]l[üu]m',
);

/** Names of kinds as they stand in brackets behind a number or a question: "(Multiple choice, 2 points)". */
export const KIND_NAME =
  /^(?:(multiple[- ]choice|single[- ](?:choice|select(?:ion)?|answer|response)|select one|MCQ?|one answer|opción (?:múltiple|única)|selección única|choix (?:multiple|unique)|QCM|einfachauswahl|single choice|múltipla escolha|escolha (?:múltipla|única)|scelta (?:multipla|singola)|meerkeuze(?:vraag)?|wielokrotny wybór|jednokrotny wybór|один ответ|одна відповідь|çoktan seçmeli)|(multiple[- ]response|multi(?:ple)?[- ]select|multiple answers?|several answers|MRQ|selección múltiple|mehrfachauswahl|mehrfachantwort|réponses multiples|várias respostas|risposte multiple|meerdere antwoorden|несколько ответов|кілька відповідей)|(true[ /-](?:or[ -])?false|T\s*\/\s*F|V\s*\/\s*F|R\s*\/\s*F|verdadero[ /](?:o )?falso|vrai[ /](?:ou )?faux|richtig[ /](?:oder )?falsch|verdadeiro[ /](?:ou )?falso|vero[ /](?:o )?falso|juist[ /](?:of )?onjuist|waar[ /](?:of )?(?:onwaar|niet waar)|prawda[ /](?:czy )?fałsz|верно[ /](?:или )?неверно|правда[ /](?:чи )?неправда|doğru[ /](?:ya da )?yanlış)|(short[- ]answer|respuesta (?:corta|breve)|réponse courte|kurzantwort|resposta curta|risposta breve|kort antwoord|krótka odpowiedź|краткий ответ|коротка відповідь|kısa cevap)|(numeric(?:al)?|number|calculation|numérica|numérique|numerisch|numeriek|число|sayısal)|(fill[- ]in(?:[- ]the[- ]blanks?)?|gap[- ]?fill|cloze|completion|completar|texte à trous|lückentext|preencher|completamento|invul(?:vraag)?|uzupełnianie|boşluk doldurma)|(matching|match|relacionar|appariement|zuordnung|correspondência|abbinamento|koppelen|dopasowanie|соответствие|відповідність|eşleştirme)|(ordering|sequencing|sequence|ordenar|classement|reihenfolge|ordenação|ordinamento|volgorde|uporządkowanie|sıralama)|(essay|open[- ]ended|open question|long answer|discussion|extended response|ensayo|pregunta abierta|question ouverte|offene frage|desarrollo|desenvolvimento|dissertativa|domanda aperta|open vraag|esej|pytanie otwarte|эссе|есе|açık uçlu))$/i;
/** Kinds in the order in which their names are looked for: longer names hold shorter ones. */
export const KIND_NAME_ORDER = [
  'multiple-choice',
  'multiple-response',
  'true-false',
  'short-answer',
  'numeric',
  'cloze',
  'matching',
  'ordering',
  'essay',
] as const;

/** Words of a part heading or of an item that say its kind. */
export const KIND_WORDS: readonly [
  RegExp,
  'multiple-choice' | 'multiple-response' | 'true-false' | 'short-answer' | 'numeric' | 'cloze' | 'matching' | 'ordering' | 'essay',
][] = [
  [
    /判断题|判斷題|是非题|正誤問題|○×|참.{0,2}거짓|सही.{0,6}गलत|सत्य.{0,6}असत्य|صح.{0,6}خطأ|صواب.{0,6}خطأ|درست.{0,6}نادرست|נכון.{0,8}לא נכון|benar.{0,6}salah|đúng.{0,8}sai|ถูก.{0,6}ผิด|tama.{0,4}mali|true\s*(?:\/|or|and|-)\s*false|\bT\s*(?:\/|or)\s*F\b|\bV\s*(?:\/|o|ou)\s*F\b|\bR\s*(?:\/|oder)\s*F\b|verdadero\s*(?:\/|o|y)\s*falso|vrai\s*(?:\/|ou|et)\s*faux|(?:richtig|wahr)\s*(?:\/|oder)\s*falsch|verdadeiro\s*(?:\/|ou|e)\s*falso|vero\s*(?:\/|o|e)\s*falso|waar\s*(?:\/|of)\s*(?:onwaar|niet waar)|juist\s*(?:\/|of)\s*onjuist|prawda\s*(?:\/|czy|lub|i)\s*fałsz|верно\s*(?:\/|или)\s*неверно|правда\s*(?:\/|чи|або)\s*неправда|doğru\s*(?:\/|ya da|mu)?\s*yanlış|(?:verdader|ciert|vrai|richtig|wahr|verdadeir|ver[eoai]|juist|waar|goed|prawd|верн|правд|вірн|doğru|adev[ăa]rat|pravd|spr[áa]vn|igaz|sant|oikein|to[čc]n|вярн|σωστ|true|certe?o?|corrett)\p{L}{0,8}[^.?!\p{L}][^.?!]{0,40}?(?<!\p{L})(?:fals|falsch|faux|fout|onjuist|onwaar|false|errad|fałsz|неверн|ложн|неправ|невірн|yanlış|nepravd|l[eo]ž|hamis|väärin|neto[čc]n|невярн|грешн|λάθος|sbagliat)\p{L}{0,6}/iu,
    'true-false',
  ],
  [
    /multiple[- ]response|select all|choose all|mark all|tick all|all that apply|more than one answer|selección múltiple|mehrfachauswahl|várias respostas/i,
    'multiple-response',
  ],
  [
    /flerval|flervalg|monivalinta|výběr z možností|výber z možností|feleletválasztós|višestruk\w* izbor|izbirn\w+ vpra|valikvastus|pilihan ganda|aneka pilihan|trắc nghiệm|ปรนัย|选择题|選擇題|選択問題|객관식|बहुविकल्पीय|বহুনির্বাচনী|اختيار من متعدد|چهارگزینه|چند ?گزینه|אמריקאיות|רב.ברירה|πολλαπλής επιλογής|multiple[- ]choice|opción múltiple|choix multiple|\bQCM\b|multiple choice|múltipla escolha|scelta multipla|meerkeuze|wielokrotn\w+ wybor|jednokrotn\w+ wybor|выбор\w* ответ|вибір|çoktan seçmeli|^\W*(?:mark|check|tick|select|choose) only one\b|^\W*(?:mark|select|choose) one (?:answer|option|oval|circle)\b/i,
    'multiple-choice',
  ],
  [
    /填空|穴埋め|空欄|빈칸|रिक्त स्थान|शून्यस्थान|শূন্যস্থান|أكمل|املأ|جای خالی|השלם|השלימו|isilah|lengkapi|điền vào|điền từ|เติมคำ|luckor|lucktext|udfyld|sett inn|lünk|papildyk|aizpildi|punan ang|fill[- ]in|fill the|gap[- ]?fill|^\W*(?:sentence )?completion\b|complete (?:the|each|these)|\bblanks?\b|cloze|complete the|rellen[aáeé]|complet[aáeéi]|complète[zsr]?|complét|lückentext|preencha|complete as|riempi|completare|vul in|invul|uzupełnij|dopełnij|wstaw|vul(?:t)? (?:aan|de)|setze? (?:das|die|den|ein)|ergänz|doplň|pótold|egészítsd|fyll i|täydennä|dopuni|допълни|συμπλήρωσε|заполните|вставьте|впишите|дополните|доповніть|встав(?:те)?|заповніть|boşluk/i,
    'cloze',
  ],
  [
    /连线|配对|組み合わせ|결합|연결하|मिलान|সঠিক মিল|صل بين|وصل کنید|התאימו?|jodohkan|pasangkan|ghép nối|nối |จับคู่|para ihop|forbind|koble sammen|yhdistä|spoj|párosítsd|asocia|poveži|повежи|свържи|αντιστοίχ|^\W*match(?:ing|es)?\b|(?:[.:;!–—-]\s+|\d[.)]?\s+|\b(?:and|then|please|to|you|can)\s+)match(?:ing)?\b|\bmatch(?:ing)? (?:the|each|these|every|up|words?|items?|terms?|them|columns?|with)\b|\bmatching\b|connect (?:the|each) (?:word|sentence|picture|item|pair|term|name)|join (?:the|each) (?:word|halves|half|sentence|pair|two|part|item|column|beginning)|draw lines|pair up|relaciona|emparej|associe|associer|correspond(?:er|ência)|\brelie[rz]?\b|zuordn|ordne(?:n sie)? (?:.* )?zu|relacione|abbina|collega|\bverbind(?:e|en|et)?\b|\bkoppel|dopasuj|соотнесите|установите соответствие|соедините|з.єднайте|połącz|ligue |unisci|unir |une con|conecta|сопоставьте|установіть відповідність|встановіть відповідн|встанови відповідн|eşleştir/i,
    'matching',
  ],
  [
    /排序|並べ替え|並べなさい|순서대로|क्रम में|رتب|مرتب کنید|סדרו? |urutkan|sắp xếp|เรียงลำดับ|i rätt ordning|i rigtig rækkefølge|i riktig rekkefølge|järjestä|seřaď|zoraď|sorrend|ordonea|poredaj|поредај|подреди|βάλε.{0,20}σειρά|put (?:.* )?in(?:to)? (?:the )?(?:right |correct )?order|in(?:to)? (?:the|their) (?:right|correct|proper|logical) (?:order|sequence)|\barrange(?!d|ment)|\bsequenc|\border(?:ing)? (?:the|these)|\bordena(?:d|r)?\b|classez|remettez|reihenfolge|\bordene[nm]?\b|coloque .* ordem|metti in ordine|\bordina(?:te|re)?\b|volgorde|uporządkuj|kolejno|расположите|упорядочите|порядк|розташуйте|sırala|\bnumber the (?:steps|stages|sentences|events|lines|pictures|following)/i,
    'ordering',
  ],
  [
    /简答|短答|주관식|लघु उत्तर|isian singkat|kortsvar|kort svar|lyhyt vastaus|σύντομης απάντησης|short[- ]answer|respuesta corta|réponse courte|kurzantwort|resposta curta|risposta breve|kort antwoord|krótka odpowied|краткий ответ|коротка відповідь|kısa cevap/i,
    'short-answer',
  ],
  [/numeric|calculat|numérica|numérique|rechenaufgabe|numerica/i, 'numeric'],
  [
    /论述|記述問題|서술형|दीर्घ उत्तर|مقالي|esai|tự luận|อัตนัย|uppsats|essä|esszé|eseu|есеј|essay|in (?:\w+ )?(?:\d|two|three|four|full|complete)(?: (?:to|or|-) \w+)? sentences|propias palabras|propres mots|eigenen worten|eigen woorden|parole tue|próprias palavras|własnymi słowami|своими словами|своїми словами|open[- ]ended|open questions?|discussion|extended response|long answer|free response|ensayo|dissertation|rédaction|aufsatz|offene frage|desarrollo|desenvolvimento|redação|dissertativa|tema aperto|domande aperte|open vragen|opisow|esej|otwarte|эссе|развернут|открыт\w+ вопрос|есе|розгорнут|açık uçlu/i,
    'essay',
  ],
];

/** A question that asks for more than a phrase. */
const ESSAY_SENTENCE =
  /^(?:in your own words|discuss|explain|describe|compare|analy[sz]e|evaluate|justify|write (?:a|an|about|\d|two|three|four|five|six|some)|give (?:your|two|three)(?: \p{L}+)? (?:opinion|reasons)|reflect|outline|argue|assess|summari[sz]e|illustrate|comment on|give (?:two|three|several) reasons|why do you think|what do you think|how would you|explica|describe|compara|analiza|justifica|discute|explique[sz]?|expliquez|décri(?:s|vez)|comparez?|analysez|justifiez|commentez|racontez|(?:erkläre|erläutere|beschreibe|vergleiche|begründe|diskutiere)n?|nimm stellung|nehmen sie stellung|comenta|coment[ae]|describa|justifique|analice|argumenta|redacta|descreva|compare|justifique|spiega(?:te)?|spieghi|illustri|descriva|commenti|discuta|confronti|descriv(?:i|ete)|confronta(?:te)?|commenta|illustra|leg uit|licht toe|beschrijf|vergelijk|wyjaśnij|opisz|porównaj|uzasadnij|omów|объясните|опишите|сравните|обоснуйте|расскажите|поясніть|опишіть|порівняйте|обґрунтуйте|розкажіть|explique|explica[țt]i|prezenta[țt]i|descrie[țt]i|compara[țt]i|argumenta[țt]i|justifica[țt]i|vysv[ěe]tli|popi[šs]|porovnej|zd[ůu]vodni|magyar[áa]zd|[íi]rd le|hasonl[íi]tsd|f[öo]rklara|beskriv|j[äa]mf[öo]r|forklar|selit[äa]|kuvaile|vertaa|objasni|opi[šs]i|usporedi|обясни|опиши|сравни|εξήγησε|περίγραψε|napisz (?:kr[óo]tk|w)|monte|elabore|redija|escreva (?:um|uma|duas|tr[êe]s)|escribe (?:un|una|dos|tres)|escribí|explicá|describí|compará|justificá|elabora|schrijf (?:een|twee|drie)|geef (?:je mening|twee|drie)|schreibe? (?:einen|eine|zwei|drei)|nenne und (?:erkläre|beschreibe)|gib (?:zwei|drei) gründe|raconte|rédige[z]?|donne (?:deux|trois|ton avis)|racconta|scrivi (?:un|una|due|tre)|açıklayın|açıklayınız|tartışın|karşılaştırın)(?![\p{L}])/iu;
/** Whether one of a question's sentences asks for more than a phrase. */
export const asksForMore = (stem: string): boolean => stem.split(/(?<=[.?!])\s+/).some((s) => ESSAY_SENTENCE.test(s));
/** Verbs that ask for an essay. */
export const ESSAY_WORDS =
  /in your own words|\(half a page\)|(?:at least|about|ca\.?|around|etwa|environ|unas|circa|ongeveer|około|około) \d+ (?:words|wörter|mots|palabras|palavras|parole|woorden|słów|слов|слів)|\d+\s*[-–]\s*\d+ words|in \d+ sentences|in a (?:short )?paragraph/i;

/** Asks for more than one option. */
export const ALL_THAT_APPLY =
  /(?:select|choose|tick|mark|check|pick)\s+(?:all|two|three|four|every)\b|(?:select|choose|tick|pick)\s+[234]\b|all that apply|more than one|\(choose (?:two|three)\)|mehrere antworten|selecciona todas|plusieurs réponses/i;

/** Words that questions start with. */
export const INTERROGATIVE =
  'what|which|who|whom|whose|when|where|why|how|qu[ée]|qui|quel|quelle|qual|quale|quais|wie|was|wer|wo|wann|warum|welche[rsn]?|wat|welke|hoe|waarom|kt[oó]r\\p{L}|kto|co|jak|gdzie|что|кто|как\\p{L}*|где|когда|почему|який|яка|яке|які|що|хто|hangi|kim|¿';

/** What assistants and mails say around a quiz. */
export const CHAT =
  /^(?:good luck|good work|well done|the end|bom trabalho|boa sorte|viel (?:erfolg|glück)|bonne chance|bon courage|buena suerte|suerte|éxito|buon lavoro|in bocca|succes|veel succes|powodzenia|удачи|успіхів|başarılar|lycka till|want (?:these|this|it|me|a|an|some)|would you|sure|of course|certainly|absolutely|here(?:'s| is| are)|below (?:is|are)|let me know|feel free|i hope|hope this|would you like|want me to|shall i|just let me know|good luck|great|okay|ok[,!.]|thanks|thank you|hi\b|hello|dear|hallo\b|moin\b|guten (?:morgen|tag|abend)|sehr geehrte|hola\b|buen[oa]s (?:días|tardes)|estimad[oa]s?\b|bonjour|salut\b|ciao\b|buongiorno|gentil[ei]\b|olá\b|prezad[oa]s?\b|hoi\b|geachte|cześć|dzień dobry|szanown|привет|здравствуйте|добр(?:ый|ого) д|привіт|вітаю|merhaba|selam|sayın|kolay gelsin|best(?: wishes| regards)|kind regards|cheers|regards|copy code|happy (?:teaching|baking)|do you want|i can also|if you(?:'d| would) like|¿?(?:te gustaría|quieres)|¡?claro|¡?por supuesto|¿quieres|por supuesto|aquí tien|espero|bien sûr|voici|n'hésitez|gerne|natürlich|hier (?:sind|ist|zijn)|com certeza|aqui est|certo[,!]|ecco|natuurlijk|oczywiście|oto\b|конечно|вот\b|звичайно|ось\b|tabii|elbette|işte)/iu;
/** Offers that assistants make anywhere in a sentence. */
export const OFFER =
  /(?:shall i|should i|would you like (?:me|a|an|the|another)|do you want (?:me|the|a|another)|want me to|let me know if|happy to (?:add|make|adjust)|i can also|¿?quieres que|¿?te gustaría que|si quieres,? puedo|soll ich|möchten sie|möchtest du|wenn du (?:möchtest|willst)|voulez-vous que|veux-tu que|souhaites-tu|souhaitez-vous|vuoi che|desideri che|quer que eu|gostaria que|wil je dat ik|zal ik|czy (?:mam|chcesz|chciałbyś)|хотите,? чтобы|хочешь,? чтобы|могу (?:также|добавить)|бажаєте|можу (?:також|додати)|ister misin|istersen(?:iz)?)/iu;
/** Page numbers, and what test papers print at the foot of a page. */
export const PAGE =
  /^(?:page|p\.|pg\.?|pág(?:ina)?\.?|seite|s\.|pag(?:ina)?\.?|blz\.?|bladzijde|strona|str\.?|страница|стр\.?|сторінка|стор\.?|с\.|sayfa|folio)\s*[\dlI]+(?:\s*(?:of|\/|de|von|di|van|z|из|з|-|–)\s*\d+)?$|^[-–—]{1,3}\s*\d{1,3}\s*[-–—]{1,3}$|^please turn over$|^p\.?t\.?o\.?$|^turn over$|^bitte wenden$|^tournez(?: la page)?(?:,? s'il vous plaît)?$|^\d+\s*\/\s*\d+$|^\[?(?:end of (?:the )?(?:test|quiz|exam|paper|questions|part|section|file|export|document|list|form)(?:\s+\w{1,3})?|ende(?: des tests)?|fin(?: del? (?:examen|test))?|fine(?: della? (?:prova|verifica))?|einde(?: (?:van de )?toets)?|koniec|конец|кінець)\]?[.!]?$/iu;
/** What stands at the end of a line that heads or closes a page: "Unit 7 revision        page 2". */
export const PAGE_TAIL =
  /(?:\s{2,}|\t|\s[-–—|·]\s)(?:page|p\.|pág(?:ina)?\.?|seite|s\.|pag(?:ina)?\.?|blz\.?|strona|str\.?|страница|стр\.?|сторінка|стор\.?|sayfa)\s*[\dlI]+(?:\s*(?:of|\/|de|von|di|van|sur|z|из|з|-|–)\s*\d+)?\s*$/iu;
/** A heading printed again on a later page. */
export const CONTINUED =
  /\s*[([]?(?:continued|cont\.?|cont'd|fortsetzung|suite|continuaci[óo]n|continua[çc][ãa]o|continua|vervolg|ciąg dalszy|продолжение|продовження|devamı)[)\]]?\s*$/iu;

/** A line that says that the first option is the right one. From memory. */
export const FIRST_IS_RIGHT =
  /(?:first|top) (?:option|answer|choice|one)s?[^.]{0,30}(?:is|are)(?: always)?(?: the)? (?:right|correct|key)|(?:right|correct) (?:option|answer|choice|one)s? (?:is |are |comes? |stands? )?(?:always )?(?:listed |given |written |put )?first|primera opci[óo]n[^.]{0,30}correcta|correcta (?:es |va )?(?:siempre )?(?:la )?primera|premi[èe]re (?:r[ée]ponse|proposition|option)[^.]{0,30}(?:bonne|juste|correcte)|(?:bonne|juste) r[ée]ponse[^.]{0,20}premi[èe]re|(?:erste|jeweils erste) (?:antwort|option|möglichkeit)[^.]{0,30}(?:richtig|korrekt)|richtige (?:antwort|option)[^.]{0,20}(?:zuerst|an erster stelle|immer oben)|prima (?:risposta|opzione)[^.]{0,30}(?:giusta|corretta|esatta)|primeira (?:op[çc][ãa]o|resposta|alternativa)[^.]{0,30}(?:certa|correta)|eerste (?:antwoord|optie)[^.]{0,30}(?:juist|goed|correct)|pierwsza (?:odpowied[źz]|opcja)[^.]{0,30}(?:poprawna|prawid)|первый (?:вариант|ответ)[^.]{0,30}(?:верн|правильн)|перш(?:ий|а) (?:варіант|відповідь)[^.]{0,30}(?:вірн|правильн)|ilk (?:seçenek|şık)[^.]{0,20}doğru/iu;
/** A line that says that the keys are in capitals. From memory. */
export const CAPITALS_ARE_RIGHT =
  /(?:right|correct|key|answer|correct|richtig|l[öo]sung|bonne|juste|giust|esatt|certa|goede|juiste|poprawn|верн|правильн|відповід|doğru)[^.]{0,40}(?:capital|upper ?case|all caps|mayúsculas|majuscules|großbuchstaben|großgeschrieben|maiuscol|maiúsculas|hoofdletters|wielk\w+ lit|заглавн|прописн|великими літерами|büyük harf)/iu;
